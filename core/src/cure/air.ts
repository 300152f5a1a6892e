import { done, type Outcome, refuse } from '../outcome/outcome';

/** 0 °C, K. */
const ZERO_C_IN_K = 273.15;
/** Coefficients of ln(p) = a/T + b + cT + dT² + eT³ + f·ln T over water, T in K, p in Pa [ASHRAE Fundamentals, Hyland and Wexler]. */
const WATER = [-5.8002206e3, 1.3914993, -4.8640239e-2, 4.1764768e-5, -1.4452093e-8, 6.5459673] as const;
/** The same over ice, with a term in T⁴ [ASHRAE Fundamentals, Hyland and Wexler]. */
const ICE = [-5.6745359e3, 6.3925247, -9.677843e-3, 6.2215701e-7, 2.0747825e-9, -9.484024e-13, 4.1635019] as const;
/** Below this the formula of the dew point is no good, °C. */
const COLDEST_C = -80;

/** Pressure of saturated water vapour, Pa, at a temperature in °C (-80 to 200): over ice below 0 °C, over water above. */
export function saturationPa(temperatureC: number): number {
  const k = temperatureC + ZERO_C_IN_K;
  if (temperatureC < 0) {
    const [a, b, c, d, e, f, g] = ICE;
    return Math.exp(a / k + b + c * k + d * k ** 2 + e * k ** 3 + f * k ** 4 + g * Math.log(k));
  }
  const [a, b, c, d, e, f] = WATER;
  return Math.exp(a / k + b + c * k + d * k ** 2 + e * k ** 3 + f * Math.log(k));
}

/** Temperature in °C at which air with this vapour pressure (Pa) is saturated, by bisection of the saturation curve. */
function dewPointC(vapourPa: number, warmestC: number): number {
  let [low, high] = [COLDEST_C, warmestC];
  for (let k = 0; k < 80; k += 1) {
    const middle = (low + high) / 2;
    if (saturationPa(middle) < vapourPa) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** Air as a thermo-hygrometer reads it. */
export interface AirInput {
  /** Dry-bulb temperature, °C. */
  temperatureC: number;
  /** 0 to 1 */
  relativeHumidity: number;
}

/** What follows from temperature and humidity of the air. */
export interface Air {
  /** Vapour pressure over water at this temperature, Pa. */
  saturationPa: number;
  /** What the air could still take up: saturation less vapour pressure, Pa. */
  deficitPa: number;
  /** Temperature at which this air would be full, °C. */
  dewPointC: number;
}

/** Saturation pressure, vapour pressure deficit and dew point of air [ASHRAE Fundamentals, Hyland and Wexler]. */
export function air({ temperatureC, relativeHumidity }: AirInput): Outcome<Air> {
  if (!(temperatureC >= -40 && temperatureC <= 90)) return refuse('temperature-impossible', 'temperatureC');
  const saturated = saturationPa(temperatureC);
  const vapour = saturated * relativeHumidity;
  if (vapour <= saturationPa(COLDEST_C)) return refuse('air-too-dry', 'relativeHumidity');
  return done({
    saturationPa: saturated,
    deficitPa: saturated - vapour,
    dewPointC: dewPointC(vapour, temperatureC),
  });
}
