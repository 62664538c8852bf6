/** After every act: what follows from show and air is put in order, each from what the one before has made. */
import { type Patch } from 'immer';
import { type Desk } from './air';
import { keepAudience } from './keep-audience';
import { keepGraphics } from './keep-graphics';
import { keepGuests } from './keep-guests';
import { keepSheets } from './keep-sheets';
import { keepTickers } from './keep-tickers';

type Kept = readonly [Desk, Patch[], Patch[]];

/** In this order: guests and the audience first, as sheets and pictures may tell of them; entries and tables from sheets, copies on air from entries, tickers from copies. */
const STEPS: readonly ((desk: Desk, frame: number) => Kept)[] = [keepGuests, keepAudience, keepSheets, keepGraphics, keepTickers];

/** The desk in order, with the patches of that; the same desk where nothing was to be done. */
export function keepAll(desk: Desk, frame: number): Kept {
  let kept: Kept = [desk, [], []];
  for (const step of STEPS) {
    const [before, patches, inverse] = kept;
    const [after, forward, back] = step(before, frame);
    if (after !== before) kept = [after, patches.concat(forward), back.concat(inverse)];
  }
  return kept;
}
