export type Unit = 'C' | 'F';

/** A temperature in degrees Celsius, as it is read in a unit. */
export function inUnit(temp: number, unit: Unit): string {
  const degrees = unit === 'C' ? temp : Math.round(temp * 1.8 + 32);
  return `${degrees} °${unit}`;
}
