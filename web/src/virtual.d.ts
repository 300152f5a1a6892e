/** Texts of a homeowner's page in one language, made when it is built. */
declare module 'virtual:record-texts/*' {
  export const texts: object;
}
