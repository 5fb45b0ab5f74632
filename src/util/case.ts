/** `KilnLid` and `kilnLid` as `kiln-lid`. */
export const kebabCase = (name: string): string => name.replace(/\B[A-Z]/g, '-$&').toLowerCase();
