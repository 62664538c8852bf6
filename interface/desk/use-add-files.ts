/** Takes files in as sources. */
import { useCallback } from 'react';
import { causeOf } from '#core/schema/cause';
import { over, say, sayShare } from '../client/say';
import { useSend, useShowClient } from '../client/show-client';

/** Takes files in and makes a source of each; what cannot be used is said, the rest goes on. */
export function useAddFiles(): (files: File[]) => Promise<void> {
  const client = useShowClient();
  const send = useSend();
  return useCallback(
    async (files) => {
      for (const file of files) {
        const { id: waiting, share } = sayShare(`Taking in ${file.name}`);
        try {
          const settings = await client.files.add(file, share);
          if (send('source.add', { name: file.name.replace(/\.[^.]+$/, '').slice(0, 80) || 'File', settings }))
            say.good(`${file.name} is in the list.`, { id: waiting });
          else over(waiting);
        } catch (error) {
          say.trouble(causeOf(error), { id: waiting, duration: 8000 });
        }
      }
    },
    [client, send],
  );
}
