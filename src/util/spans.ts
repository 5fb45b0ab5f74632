interface Between {
  readonly start: number;
  readonly end: number;
}

/** Whether one part of a text stands in another, or is the same. */
export const isInside = (inner: Between, outer: Between): boolean =>
  outer.start <= inner.start && inner.end <= outer.end;
