/** A surface must lie this far over the dew point before it is coated, °C: 5 °F [common practice, no source]. */
export const OVER_DEW_C = 3;
/** How warm a site is heated to, °C [common practice, no source]. */
export const HEATED_C = 23;
/** Relative humidity that ventilating brings, as a share [common practice, no source]. */
export const VENTILATED = 0.45;
