/** A part of the texts in one language, made when it is built. */
declare module 'virtual:texts/*' {
  export const texts: object;
}
