/** A setting as it is printed: numbers and words as they are, nothing for what is not told. */
export const sayValue = (x: unknown): string =>
  x === undefined || x === null ? '' : typeof x === 'string' ? x : JSON.stringify(x)
