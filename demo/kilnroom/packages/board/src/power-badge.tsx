import { useEffect, useState } from 'react';
import { meter } from './meter';

/** The power that the room draws right now. */
export function PowerBadge() {
  const [kilowatts, setKilowatts] = useState<number>();

  useEffect(() => {
    meter.reading().then(setKilowatts, () => setKilowatts(undefined));
  }, []);

  return <output aria-label="Power">{kilowatts === undefined ? 'Reading the meter' : `${kilowatts} kW`}</output>;
}
