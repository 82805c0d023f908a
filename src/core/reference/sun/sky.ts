/** Solar constant, W/m2 (Kopp and Lean 2011; the handbooks' 1367 is 0.4 % more). */
export const SOLAR_CONSTANT = 1361;

/** Sun above the air on a surface facing it, W/m2, on day `dayOfYear` (1 to 366): Duffie and Beckman, eq. 1.4.1 (memory). */
export function extraterrestrial(dayOfYear: number, solarConstant = SOLAR_CONSTANT): number {
  return solarConstant * (1 + 0.033 * Math.cos((2 * Math.PI * dayOfYear) / 365));
}

/**
 * Sun above the air on the level over a whole day, J/m2, at a latitude in degrees on day `dayOfYear`: Duffie and Beckman,
 * eq. 1.10.3. 0 in the polar night.
 */
export function extraterrestrialOverDay(latitude: number, dayOfYear: number, solarConstant = SOLAR_CONSTANT): number {
  const phi = (latitude * Math.PI) / 180;
  const declination = ((23.45 * Math.PI) / 180) * Math.sin((2 * Math.PI * (284 + dayOfYear)) / 365);
  const sunset = Math.acos(Math.min(1, Math.max(-1, -Math.tan(phi) * Math.tan(declination))));
  const [sin, cos] = [Math.sin(phi) * Math.sin(declination), Math.cos(phi) * Math.cos(declination)];
  return Math.max(
    0,
    (86_400 / Math.PI) * extraterrestrial(dayOfYear, solarConstant) * (cos * Math.sin(sunset) + sunset * sin),
  );
}

/** Clear-sky sun on the level, W/m2, at a zenith angle's cosine: Haurwitz 1945, 1098 cos z exp(-0.059 / cos z). */
export function clearSky(cosZenith: number): number {
  return cosZenith <= 0 ? 0 : 1098 * cosZenith * Math.exp(-0.059 / cosZenith);
}

/** Diffuse share of the sun on the level at clearness `kt`: Erbs, Klein and Duffie 1982. */
export function diffuseShare(kt: number): number {
  if (kt <= 0.22) return 1 - 0.09 * Math.max(0, kt);
  if (kt > 0.8) return 0.165;
  return 0.9511 + kt * (-0.1604 + kt * (4.388 + kt * (-16.638 + kt * 12.336)));
}

/** How a surface lies: sine and cosine of its tilt from level, and the azimuth it faces (from north through east), radians. */
export interface Facing {
  sinTilt: number;
  cosTilt: number;
  azimuth: number;
}

/** A surface at a tilt from level that faces an azimuth, both in radians. */
export const facing = (tilt: number, azimuth: number): Facing => ({
  sinTilt: Math.sin(tilt),
  cosTilt: Math.cos(tilt),
  azimuth,
});

/** Light that the ground throws back. */
const GROUND_REFLECTS = 0.2;

/**
 * Sun on a tilted surface, W/m2: beam, sky (Hay and Davies 1980: the part around the sun goes with the beam, the rest is
 * even) and ground. `global` and `diffuse` are on the level; `beamTop` is the sun above the air facing it.
 */
// oxlint-disable-next-line max-params -- called at every step of every run: an object for its numbers would be made each time
export function onSurface(
  { sinTilt, cosTilt, azimuth }: Facing,
  sinAltitude: number,
  cosAltitude: number,
  sunAzimuth: number,
  global: number,
  diffuse: number,
  beamTop: number,
): number {
  const ground = (GROUND_REFLECTS * global * (1 - cosTilt)) / 2;
  if (sinAltitude <= 0) return (diffuse * (1 + cosTilt)) / 2 + ground;
  // Near the horizon the quotient of two small numbers is noise: the beam is spread as over five degrees.
  const divisor = Math.max(sinAltitude, 0.087);
  const beamNormal = Math.max(0, global - diffuse) / divisor;
  const cosIncidence = Math.max(0, sinAltitude * cosTilt + cosAltitude * sinTilt * Math.cos(sunAzimuth - azimuth));
  const anisotropy = Math.min(1, beamNormal / beamTop);
  const around = diffuse * anisotropy * (cosIncidence / divisor);
  const even = (diffuse * (1 - anisotropy) * (1 + cosTilt)) / 2;
  return beamNormal * cosIncidence + around + even + ground;
}

/**
 * Sun on an upright wall, W/m2, averaged over all ways it may face: cos(altitude) / pi of the beam, half the sky, half of
 * what the ground throws back. Nobody knows which way the vehicle will be parked.
 */
export function onWallsOfAnyFacing(sinAltitude: number, cosAltitude: number, global: number, diffuse: number): number {
  const beam =
    sinAltitude <= 0 ? 0 : (Math.max(0, global - diffuse) / Math.max(sinAltitude, 0.087)) * (cosAltitude / Math.PI);
  return beam + diffuse / 2 + (GROUND_REFLECTS * global) / 2;
}

/** Cell temperature in degC under `poa` W/m2: the definition of NOCT, IEC 61215 (800 W/m2, 20 degC air). */
export function cellTemperature(airC: number, poa: number, nominalCellC: number): number {
  return airC + ((nominalCellC - 20) * poa) / 800;
}
