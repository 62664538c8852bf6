/**
 * How far behind the show clock things happen. Pictures stamped t are mixed once every source has had time to deliver
 * its picture of t; sound stamped t plays later still, so that its fades can be set to the very frame.
 */

/** Show microseconds from a frame's stamp to its mixing: three halves of a frame at 25 a second. */
export const PICTURE_DELAY_MICROS = 60_000;

/** Show microseconds from a sound's stamp to its playing. */
export const SOUND_DELAY_MICROS = 160_000;
