/**
 * Error of a reading, % of a span; the sign is that of read minus expected on a span that runs upwards.
 * @param span high minus low in the unit of both readings; negative where the scale runs downwards, never 0
 */
export const errorOfSpan = (read: number, expected: number, span: number): number => (100 * (read - expected)) / span
/** Of a live-zero loop, 4 to 20 mA. */
export const LOOP_SPAN_mA = 16
