/**
 * The lap that a sheet or a band must have at least where no rule book is asked, mm: 2 in [common practice, no source]. What a
 * shower is judged by stands in its rule book.
 */
export const USUAL_LAP_MM = 50.8;
