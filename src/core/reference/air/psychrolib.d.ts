/** The functions of psychrolib that the core uses: SI units, Pa, degC, J/kg, kg/kg. */
declare module "psychrolib" {
  const psychrolib: {
    SI: number;
    SetUnitSystem(system: number): void;
    GetStandardAtmPressure(altitudeM: number): number;
    GetHumRatioFromTDewPoint(dewPointC: number, pressurePa: number): number;
    GetHumRatioFromRelHum(dryBulbC: number, relative: number, pressurePa: number): number;
    GetHumRatioFromTWetBulb(dryBulbC: number, wetBulbC: number, pressurePa: number): number;
    GetTWetBulbFromHumRatio(dryBulbC: number, ratio: number, pressurePa: number): number;
    GetRelHumFromHumRatio(dryBulbC: number, ratio: number, pressurePa: number): number;
    GetMoistAirEnthalpy(dryBulbC: number, ratio: number): number;
    GetSatHumRatio(dryBulbC: number, pressurePa: number): number;
    GetSatAirEnthalpy(dryBulbC: number, pressurePa: number): number;
  };
  export default psychrolib;
}
