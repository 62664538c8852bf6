/** New shows, sources and lanes with sensible first settings. */
import { createAutomation } from '../automation/create';
import { SOURCE_KINDS } from '../show/source-kinds';
import { createDelivery } from '../output/create';
import { firstLanes, plainTransition, firstTransitions } from '../picture/create';
import { createAudience } from '../audience/document';
import { createGuests } from '../guests/document';
import { createGraphics } from '../graphics/create';
import { createOrder } from '../order/create';
import { createReplay } from '../replay/document';
import { createScreens } from '../screens/create';
import { createSound } from '../sound/document';
import { plainStrip } from '../sound/strip';
import { type Rate } from '../time/rate';
import { type Raster } from '../show/raster';
import { type Show } from './show';
import { SHOW_VERSION } from './version';
import { type Source, type SourceSettings } from '../show/source';

/** Tile colours, handed out in turn; far enough apart to tell in a dim room. */
export const TILE_COLOURS = ['#5aa9c9', '#c9955a', '#8fbf6a', '#b58ad6', '#d67f8c', '#5fc2b0', '#c2b65f', '#8c9bd9'];

/** An empty show. `id` must be new. */
export function createShow(id: string, name: string, raster: Raster, rate: Rate): Show {
  const second = Math.max(1, Math.round(rate.num / rate.den));
  return {
    format: 'bivoca-show',
    version: SHOW_VERSION,
    id,
    name,
    raster: { ...raster },
    rate: { ...rate },
    sources: [],
    groups: [],
    lanes: firstLanes(),
    seats: [],
    eyes: [],
    framings: [],
    layouts: [],
    presets: [],
    styles: [],
    transition: plainTransition(second),
    transitions: firstTransitions(second),
    overrides: [],
    blackFrames: second,
    sound: createSound(),
    output: createDelivery(raster),
    replay: createReplay(raster.height),
    graphics: createGraphics(),
    sheets: [],
    tableaux: [],
    automation: createAutomation(),
    order: createOrder(),
    devices: [],
    pages: [],
    screens: createScreens(),
    guests: createGuests(),
    audience: createAudience(),
  };
}

/** A source with the first free number and the next colour in turn; pass what should differ. */
export function createSource(show: Show, id: string, name: string, settings: SourceSettings): Source {
  const taken = new Set(
    [show.sources, show.framings, show.layouts, show.presets, show.graphics.list, show.guests.gatherings].flat().map((p) => p.number),
  );
  let number: number | null = 1;
  while (number !== null && taken.has(number)) number = number < 99 ? number + 1 : null;
  // A camera with a microphone of its own stays open whatever is on air.
  const follows = settings.kind !== 'camera' || settings.audioDeviceId === null;
  return {
    id,
    name,
    colour: TILE_COLOURS[show.sources.length % TILE_COLOURS.length] ?? '#5aa9c9',
    number,
    groupId: null,
    feedsOnly: false,
    sound: plainStrip({ faderDb: SOURCE_KINDS[settings.kind].firstLevelDb, follows }),
    expects: null,
    settings,
  };
}
