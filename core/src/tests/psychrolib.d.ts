/** The part of the reference library that the tests call; it ships without types. */
declare module 'psychrolib' {
  const psychrolib: {
    SI: number;
    SetUnitSystem: (system: number) => void;
    GetSatVapPres: (temperatureC: number) => number;
    GetTDewPointFromRelHum: (temperatureC: number, relativeHumidity: number) => number;
  };
  export default psychrolib;
}
