/** Image and font files for graphics: checked, and kept in this browser's storage. */
import { causeOf } from '#core/schema/cause';
import { storeFont, storeImage } from '#engine/storage/assets';
import { say } from '../client/say';

/** Stores an image file; null, with the cause said, when it cannot be used. */
export async function addImage(file: File): Promise<string | null> {
  try {
    return await storeImage(file);
  } catch (error) {
    say.caution(causeOf(error));
    return null;
  }
}

/** Stores a font file; null, with the cause said, when it cannot be used. */
export async function addFont(file: File): Promise<{ assetId: string; family: string } | null> {
  try {
    return await storeFont(file);
  } catch (error) {
    say.caution(causeOf(error));
    return null;
  }
}
