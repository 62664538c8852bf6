/** Makes the demo show, with the files that it shows. */
import { nanoid } from 'nanoid';
import { type Raster } from '#core/show/raster';
import { readSheet } from '#engine/sheets/sheets';
import { storeAsset } from '#engine/storage/assets';
import { db } from '#engine/storage/db';
import { storeShow } from '#engine/storage/shows';
import heatsUrl from '#standins/data/heats.xlsx?url&no-inline';
import { TEMPLATES } from '#standins/graphics/templates';
import { createDemoShow } from '#standins/show/demo';
import { drawBug, drawFrame, drawSail, drawSwell } from '#standins/show/demo-art';
import { DEMO_RASTER } from '#standins/show/demo-name';

/** The demo's own animations, as files. */
async function storeTemplates(): Promise<Record<string, string>> {
  const stored: Record<string, string> = {};
  for (const { id, fileName, make } of TEMPLATES)
    stored[id] = await storeAsset(new Blob([JSON.stringify(make())], { type: 'application/json' }), fileName, 'application/json');
  return stored;
}

/** The rows of the demo's workbook; none where it cannot be read. */
async function heatRows(): Promise<{ columns: string[]; rows: string[] }> {
  try {
    return await readSheet(await (await fetch(heatsUrl)).blob(), 'heats.xlsx');
  } catch {
    return { columns: [], rows: [] };
  }
}

/** A new demo show in this browser; its identity. */
export async function makeDemo(raster: Raster = DEMO_RASTER): Promise<string> {
  const scale = raster.height / 360;
  const art = async (drawn: Promise<Blob>, name: string) => storeAsset(await drawn, name, 'image/png');
  const { show, air } = createDemoShow(
    nanoid(12),
    {
      bug: await art(drawBug(scale), 'halyard-bug.png'),
      frame: await art(drawFrame(scale), 'sail-cloth-frame.png'),
      sail: await art(drawSail(scale), 'sail-sweep.png'),
      swell: await art(drawSwell(), 'swell.png'),
      templates: await storeTemplates(),
      heats: await heatRows(),
      port: Number(window.location.port) || 80,
    },
    raster,
  );
  await storeShow(show);
  await db.airs.put({ showId: show.id, air, savedFrame: 0 });
  return show.id;
}
