import { useState } from 'react';

export interface ConePickerProps {
  cones: string[];
  onPick?: (cone: string) => void;
}

/** Lets the potter choose the cone that a firing goes to. */
export function ConePicker({ cones, onPick }: ConePickerProps) {
  const [chosen, setChosen] = useState('');

  const pick = (cone: string) => {
    setChosen(cone);
    onPick?.(cone);
  };

  return (
    <form aria-label="Cone">
      <h3 data-testid="cone-title">Choose a cone</h3>
      {cones.map((cone) => (
        <button key={cone} type="button" onClick={() => pick(cone)}>
          Cone {cone}
        </button>
      ))}
      <label>
        Hold <input type="number" placeholder="minutes" />
      </label>
      <img src="data:," className="cone-picker__chart" />
      {chosen && <p>Fires to cone {chosen}</p>}
    </form>
  );
}
