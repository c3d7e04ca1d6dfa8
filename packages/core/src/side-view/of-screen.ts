/** Degrees; house: what a camera that is held by hand is askew by, some 4 degrees, does. */
const ASKEW_DEG = 0.1;

/**
 * Standard uncertainty in degrees of an angle in a picture that a hand-held camera took from a screen, by that of the same picture taken straight: a camera
 * that is t askew shortens the screen to cos t along one direction, and turns lines that were at right angles by up to 1 - cos t radians, over
 * directions by that over the root of 2. Example: 0.03 becomes 0.104.
 */
export const angleSdOfScreen = (angleSd: number): number => Math.hypot(angleSd, ASKEW_DEG);
