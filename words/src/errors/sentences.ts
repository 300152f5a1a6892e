/** One error in both languages, with the HTTP status that the server answers with; 422 where none stands. */
export interface Sentences {
  /** Status of HTTP; 422 without it: what was sent can be read and can not be. */
  status?: number;
  /** In English. Says what is wrong and the way out. */
  en: string;
  /** In Spanish. Says what is wrong and the way out. */
  es: string;
}
