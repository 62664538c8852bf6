/** Image and font files for graphics: checked, and kept where the show runs. */
import { useCallback } from 'react';
import { causeOf } from '#core/schema/cause';
import { type KeptFile, type ShowClient } from '#engine/client/show-client';
import { say } from '../client/say';
import { useShowClient } from '../client/show-client';

/** Keeps a file; null, with the cause said, when it cannot be used. */
async function keep(client: ShowClient, file: File, as: 'image' | 'font'): Promise<KeptFile | null> {
  try {
    return await client.files.keep(file, as);
  } catch (error) {
    say.caution(causeOf(error));
    return null;
  }
}

export const addImage = async (client: ShowClient, file: File): Promise<string | null> =>
  (await keep(client, file, 'image'))?.assetId ?? null;

/** Keeps an image file; null, with the cause said, when it cannot be used. */
export function useAddImage(): (file: File) => Promise<string | null> {
  const client = useShowClient();
  return useCallback((file) => addImage(client, file), [client]);
}

/** Keeps a font file; null, with the cause said, when it cannot be used. */
export function useAddFont(): (file: File) => Promise<KeptFile | null> {
  const client = useShowClient();
  return useCallback((file) => keep(client, file, 'font'), [client]);
}
