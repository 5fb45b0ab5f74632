import { KilnCard } from './kiln-card';

export interface FiringBoardProps {
  kilns: { name: string; temp: number; cone?: number }[];
  onFire?: (name: string) => void;
}

/** All kilns of the studio. */
export function FiringBoard({ kilns, onFire }: FiringBoardProps) {
  if (kilns.length === 0) {
    return <p className="board__empty">No kiln is plugged in</p>;
  }
  return (
    <main>
      <h2>Firing board</h2>
      {kilns.map((kiln) => (
        <KilnCard key={kiln.name} {...kiln} onFire={onFire} />
      ))}
    </main>
  );
}
