import { notNegative, positive, share } from '../input-rules.js';

/** Face velocity of dry media at a series car's rated flow, m/s: a guide. Assumption (formula g3). */
export const GUIDE_FACE_VELOCITY_MS = { low: 0.1, high: 0.2 };
/** Share of the pleats that is not glued, pinched or folded away. Assumption (formula g1). */
export const USABLE_SHARE = 0.9;

/** Media area, m², of a panel or straight cylinder: pleats, their depth and length (or height), m, and the usable share (formula g1). */
export function panelMediaM2(pleats: number, depthM: number, lengthM: number, usable = USABLE_SHARE): number {
  return (
    2 * positive('pleats', pleats) * positive('pleat depth', depthM) * positive('pleat length', lengthM) * share('usable share', usable)
  );
}

export interface ConeGeometry {
  pleats: number;
  depthBaseM: number;
  depthTopM: number;
  baseDiameterM: number;
  topDiameterM: number;
  heightM: number;
  usable?: number;
  mediaThicknessM?: number;
}

/** Media area, m², and slant height, m, of a cone or tapered round; says whether the pleats block each other at the small end (formula g2). */
export function coneMedia(cone: ConeGeometry): { areaM2: number; slantM: number; blocked: boolean } {
  const { pleats, depthBaseM, depthTopM, baseDiameterM, topDiameterM, heightM, usable = USABLE_SHARE, mediaThicknessM = 0 } = cone;
  const slantM = Math.hypot(
    positive('height', heightM),
    (positive('base diameter', baseDiameterM) - positive('top diameter', topDiameterM)) / 2,
  );
  const depth = (positive('pleat depth at the base', depthBaseM) + positive('pleat depth at the top', depthTopM)) / 2;
  const innerM = Math.min(topDiameterM, baseDiameterM) - 2 * depthTopM;
  const blocked = 2 * notNegative('media thickness', mediaThicknessM) > (Math.PI * innerM) / positive('pleats', pleats);
  return { areaM2: 2 * pleats * depth * slantM * share('usable share', usable), slantM, blocked };
}

/** Face velocity, m/s, of a volume flow, m³/s, through an area, m² (formula g3). */
export function faceVelocityMS(volumeFlowM3S: number, areaM2: number): number {
  return notNegative('volume flow', volumeFlowM3S) / positive('area', areaM2);
}
