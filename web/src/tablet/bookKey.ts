/** Where a rule book is kept on this tablet: another firm's beside the own of the same number. */
export const bookKey = (origin: string, id: string, version: number): string =>
  origin === '' ? `${id}@${version}` : `${origin} ${id}@${version}`;
