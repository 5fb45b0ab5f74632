import { useState } from 'react';

export interface FiringTimerProps {
  stages: string[];
  onDone?: (stages: number) => void;
}

/** Leads through the stages of a firing. */
export function FiringTimer({ stages, onDone }: FiringTimerProps) {
  const [at, setAt] = useState<number>();
  const [held, setHeld] = useState(false);
  const next = (): void => {
    const following = (at ?? -1) + 1;
    setAt(following);
    if (following === stages.length) onDone?.(stages.length);
  };
  return (
    <section aria-label="Firing timer">
      {at !== undefined && at < stages.length && <p role="status">{stages[at]}</p>}
      <button onClick={next} disabled={held}>
        {at === undefined ? 'Start' : 'Next stage'}
      </button>
      <button onClick={() => setHeld(!held)}>{held ? 'Go on' : 'Hold'}</button>
      <ol>
        {stages.map((stage) => (
          <li key={stage}>{stage}</li>
        ))}
      </ol>
    </section>
  );
}
