import { useState } from 'react';
import { inUnit, type Unit } from './unit';

export interface UnitSwitchProps {
  marks: number[];
  onChange?: (unit: Unit) => void;
}

let switches = 0;

/** The marks of a dial, in Celsius or in Fahrenheit; the choice is remembered. */
export function UnitSwitch({ marks, onChange }: UnitSwitchProps) {
  const [id] = useState(() => `marks-${++switches}`);
  const [unit, setUnit] = useState<Unit>(() => (localStorage.getItem('unit') === 'F' ? 'F' : 'C'));
  const other: Unit = unit === 'C' ? 'F' : 'C';

  const change = () => {
    setUnit(other);
    onChange?.(other);
  };

  return (
    <section aria-labelledby={id}>
      <h3 id={id}>Marks</h3>
      <ul>
        {marks.map((mark) => (
          <li key={mark}>{inUnit(mark, unit)}</li>
        ))}
      </ul>
      <button type="button" onClick={change}>
        Show °{other}
      </button>
    </section>
  );
}
