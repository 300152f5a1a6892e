/** One error in both languages, with the HTTP status that the server answers with; 422 where none stands. */
export interface Sentences {
  status?: number;
  en: string;
  es: string;
}
