/** The size of a picture file, read from its head before anything is decoded: a small file may unpack to gigabytes. */
import { imageSize } from 'image-size';
import { MediaTrouble } from './media-trouble';

/** Larger pictures are refused: no raster needs more, and decoding them would stall the show. */
const LONGEST_SIDE = 8192;
/** Bytes in which the size stands, even behind large metadata. */
const HEAD_BYTES = 512 * 1024;

/** Throws when a PNG, JPEG or WebP file must not be decoded. @throws MediaTrouble; any error for what is no picture. */
export async function checkPictureSize(file: Blob): Promise<void> {
  const { width, height } = imageSize(new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer()));
  if (width > LONGEST_SIDE || height > LONGEST_SIDE)
    throw new MediaTrouble(`it is ${width}×${height}, and stills go up to ${LONGEST_SIDE} pixels a side. Make it smaller and add it again`);
}
