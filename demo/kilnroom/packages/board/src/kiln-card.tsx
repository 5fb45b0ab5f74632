import { useState } from 'react';
import { KilnLid } from './kiln-lid';

export interface KilnCardProps {
  name: string;
  temp: number;
  cone?: number;
  onFire?: (name: string) => void;
}

/** One kiln on the firing board. */
export function KilnCard({ name, temp, cone, onFire }: KilnCardProps) {
  const [closed, setClosed] = useState(false);
  const label = closed ? 'Open the lid' : 'Close the lid';

  return (
    <article className="kiln-card" aria-label={name}>
      <h3 className="kiln-card__name">{name}</h3>
      <p className="kiln-card__temp">{temp} °C</p>
      {cone !== undefined && <p className="kiln-card__cone">Cone {cone}</p>}
      <KilnLid temp={temp} />
      <button type="button" className="kiln-card__lid" onClick={() => setClosed(!closed)}>
        {label}
      </button>
      <button type="button" className="kiln-card__fire" disabled={!closed} onClick={() => onFire?.(name)}>
        Fire
      </button>
    </article>
  );
}
