/** A range of UTF-16 offsets, from 0, in a file named by its absolute path. */
export interface Place {
  file: string;
  start: number;
  end: number;
}
