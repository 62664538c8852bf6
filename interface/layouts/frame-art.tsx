/** Lays boxes under the openings of frame artwork. */
import { useCallback } from 'react';
import { over, say } from '../client/say';
import { causeOf } from '#core/schema/cause';
import { useShowClient, useSend } from '../client/show-client';

/** Pixels of the raster that boxes reach under the artwork when nothing else is said. */
export const USUAL_BLEED = 2;

/** Takes frame artwork for a layout: from a file, or a still of the show; finds its openings and lays boxes under them. */
export function useFrameArt(layoutId: string): {
  fromFile: (file: File, bleed?: number) => Promise<void>;
  fromSource: (id: string, bleed?: number) => Promise<void>;
} {
  const host = useShowClient();
  const send = useSend();
  const fromSource = useCallback(
    async (id: string, bleed = USUAL_BLEED) => {
      const source = host.state.desk.show.sources.find((s) => s.id === id);
      if (source?.settings.kind !== 'still') {
        say.caution('Frame artwork is a still picture with transparent openings. Choose one, or drop a file on the picture.');
        return;
      }
      const waiting = say.working('Looking for openings…');
      try {
        const { windows, width, height } = await host.files.findWindows(source.settings.assetId);
        if (windows.length === 0)
          say.caution(`${source.name} has no transparent openings. Make the places for pictures transparent and save it as PNG or WebP.`, {
            id: waiting,
            duration: 8000,
          });
        else if (
          send('layout.layUnder', { layout: layoutId, frame: id, windows: windows.slice(0, 64).map((w) => w.rect), width, height, bleed })
        ) {
          say.good(`${windows.length} ${windows.length === 1 ? 'opening' : 'openings'} found; a box lies under each.`, {
            id: waiting,
          });
        } else over(waiting);
      } catch (error) {
        say.trouble(`${source.name} cannot be read: ${causeOf(error)}`, { id: waiting });
      }
    },
    [host, send, layoutId],
  );
  const fromFile = useCallback(
    async (file: File, bleed = USUAL_BLEED) => {
      try {
        const settings = await host.files.add(file);
        const added = host.dispatch({
          type: 'source.add',
          args: { name: file.name.replace(/\.[^.]+$/, '').slice(0, 80) || 'Frame', settings, feedsOnly: true },
        });
        if (!added.ok) say.caution(added.error.message);
        else if (settings.kind === 'still') await fromSource(String(added.result.id), bleed);
        else say.caution(`${file.name} is a clip; it was added to the sources. Frame artwork is a still picture.`);
      } catch (error) {
        say.trouble(causeOf(error), { duration: 8000 });
      }
    },
    [host, fromSource],
  );
  return { fromFile, fromSource };
}
