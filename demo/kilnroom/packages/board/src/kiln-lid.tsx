export interface KilnLidProps {
  temp: number;
  venting?: boolean;
}

/** Says whether a lid may be opened. */
export function KilnLid({ temp, venting = false }: KilnLidProps) {
  if (temp >= 600) {
    return <p role="alert">Too hot to open</p>;
  }
  return <p role="status">{venting ? 'Venting' : temp < 60 ? 'Safe to open' : 'Wear gloves'}</p>;
}
