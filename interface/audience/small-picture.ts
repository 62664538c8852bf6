/** A picture of somebody, made small enough to be sent with what they write. */
import { LONGEST_PICTURE } from '#core/audience/line';

const SIDE = 160;

/** A square JPEG in base64. @throws Error in words for what is no picture */
export async function smallPicture(file: File): Promise<string> {
  const image = await createImageBitmap(file).catch(() => null);
  if (!image) throw new Error('This file is no picture that this browser can read.');
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = SIDE;
  const side = Math.min(image.width, image.height);
  canvas.getContext('2d')?.drawImage(image, (image.width - side) / 2, (image.height - side) / 2, side, side, 0, 0, SIDE, SIDE);
  image.close();
  for (const quality of [0.8, 0.6, 0.4, 0.2]) {
    const text = canvas.toDataURL('image/jpeg', quality).split(',')[1] ?? '';
    if (text.length <= LONGEST_PICTURE) return text;
  }
  throw new Error('This picture cannot be made small enough.');
}
