/** Litres in a US gallon: 231 cubic inches exactly. */
export const US_GALLON_L = 3.785411784;
/** Litres in a US cup, a sixteenth of a gallon. */
export const US_CUP_L = US_GALLON_L / 16;
/** Pounds (avoirdupois) in a kilogram: 1 lb = 0.45359237 kg exactly. */
export const LB_PER_KG = 1 / 0.45359237;
/** Square feet in a square metre: 1 ft = 0.3048 m exactly. */
export const FT2_PER_M2 = 1 / 0.3048 ** 2;
