/** What frames the show: bug, coming up, sponsors, opening. */
import { colourFill, createElement, holdMove, move } from '../create';
import { box, entry, field, graphic, group, INK, LUFF, textField, words } from './parts';

export const bug = () =>
  graphic('skerry-bug', 'Contest bug', {
    elements: [
      createElement(
        'kite',
        'polygon',
        { x: 1154, y: 610, width: 44, height: 58 },
        { name: 'Kite', content: { kind: 'polygon', sides: 4 }, fill: colourFill(INK.straw, 0.95), rotation: 16 },
      ),
      createElement(
        'tail',
        'line',
        { x: 1140, y: 664, width: 30, height: 22 },
        { name: 'Tail', stroke: { width: 3, colour: INK.straw, opacity: 0.95, place: 'centre', dash: 'solid' }, flipX: true },
      ),
      // As wide as its words, to the left of the kite.
      group('sign', 'Sign', 996, 645, 142, 38, 'row', {
        content: { kind: 'group', flow: 'row', align: 'end' },
        fill: colourFill(INK.deep, 0.6),
        corners: { topLeft: 19, topRight: 0, bottomRight: 0, bottomLeft: 0 },
      }),
      words(
        'place',
        'Place',
        1012,
        648,
        110,
        32,
        'SKERRY POINT',
        { family: 'Barlow Condensed', size: 24, across: 'right', letterSpacing: 1, overflow: 'grow' },
        { parentId: 'sign', opacity: 0.9, change: move('fade', 12) },
      ),
    ],
    fields: [textField('place', 'Place', 'SKERRY POINT', 24)],
    entries: [entry('bug-1', 1, { place: 'LIVE FROM THE PIER' })],
  });

export const comingUp = () =>
  graphic('coming-up', 'Coming up', {
    elements: [
      box('frame', 'Frame', 850, 410, 360, 250, colourFill(INK.deep, 0.92), {
        in: move('slide', 14, { edge: 'right', easing: 'out' }),
        out: move('slide', 12, { edge: 'right', easing: 'in' }),
      }),
      createElement(
        'view',
        'window',
        { x: 866, y: 426, width: 328, height: 184 },
        {
          name: 'View',
          in: move('slide', 14, { edge: 'right', easing: 'out' }),
          out: move('slide', 12, { edge: 'right', easing: 'in' }),
          change: move('wipe', 14),
        },
      ),
      box('tab', 'Tab', 850, 380, 150, 36, INK.straw, {
        skewX: LUFF,
        in: move('fade', 8, { start: 10 }),
        out: move('fade', 6),
        hold: holdMove('fade', 50, { depth: 0.45, rest: 30 }),
      }),
      words(
        'tab-word',
        'Tab word',
        862,
        382,
        126,
        32,
        'COMING UP',
        { family: 'Barlow Condensed', size: 22, weight: 700, across: 'centre' },
        { fill: colourFill(INK.deep), in: move('fade', 8, { start: 10 }), out: move('fade', 6) },
      ),
      words(
        'what',
        'What',
        866,
        614,
        328,
        40,
        'What comes',
        { size: 26 },
        { in: move('fade', 8, { start: 10 }), out: move('fade', 6), change: move('fade', 12) },
      ),
    ],
    fields: [
      textField('what', 'What comes', '', 40),
      field('view', 'Picture', { kind: 'picture', pictureId: null }, [{ elementId: 'view', property: 'content', part: null }], {
        hint: 'a live picture of the show',
      }),
    ],
    entries: [
      {
        ...entry('up-1', 1, { what: 'Heat 4 on the flight line' }),
        values: [
          ...entry('', 1, { what: 'Heat 4 on the flight line' }).values,
          { fieldId: 'view', value: { kind: 'picture', pictureId: 'line' } },
        ],
      },
      {
        ...entry('up-2', 2, { what: 'The view from the mast' }),
        values: [
          ...entry('', 2, { what: 'The view from the mast' }).values,
          { fieldId: 'view', value: { kind: 'picture', pictureId: 'mast' } },
        ],
      },
    ],
  });

export const sponsors = () =>
  graphic('sponsors', 'Sponsors', {
    elements: [
      box(
        'band',
        'Band',
        0,
        636,
        1280,
        84,
        {
          kind: 'linear',
          angle: 0,
          length: 1,
          spread: 'pad',
          stops: [
            { at: 0, colour: INK.harbour, opacity: 0.95 },
            { at: 1, colour: INK.deep, opacity: 0.95 },
          ],
        },
        { in: move('slide', 12, { edge: 'bottom', easing: 'out' }), out: move('slide', 10, { edge: 'bottom', easing: 'in' }) },
      ),
      words(
        'thanks',
        'Thanks',
        60,
        646,
        250,
        64,
        'With thanks to',
        { size: 28, weight: 400, italic: true },
        { fill: colourFill(INK.mist), in: move('fade', 8, { start: 8 }), out: move('fade', 5), change: move('fade', 12) },
      ),
      ...[1, 2, 3].map((n) =>
        words(
          `firm-${n}`,
          `Firm ${n}`,
          320 + (n - 1) * 310,
          646,
          290,
          64,
          'Firm',
          { family: n === 1 ? 'Playfair Display' : n === 2 ? 'Fredoka' : 'Caveat', size: 34, across: 'centre' },
          {
            fill: colourFill(INK.straw),
            in: move('blur', 12, { start: 6 + n * 4 }),
            out: move('fade', 5),
            change: move('turn', 16),
            hideWhenEmpty: true,
          },
        ),
      ),
    ],
    fields: [
      textField('thanks', 'Words before', 'With thanks to', 30),
      ...[1, 2, 3].map((n) => textField(`firm-${n}`, `Firm ${n}`, '', 30)),
    ],
    entries: [entry('firms-1', 1, { 'firm-1': 'Halyard & Sons', 'firm-2': 'Gull’s Rest', 'firm-3': 'The Rope Loft' })],
  });

/** A full opening: also a stinger, as its sails cover the picture at its cut frame. */
export const opening = () => {
  const sail = (n: number, colour: string, start: number) =>
    box(`sail-${n}`, `Sail ${n}`, -220, -20, 1720, 760, colour, {
      skewX: LUFF,
      in: move('slide', 16, { start, easing: 'out' }),
      out: move('slide', 14, { start: 6 - n * 2, edge: 'right', easing: 'in' }),
    });
  return graphic('opening', 'Opening', {
    elements: [
      sail(1, INK.straw, 0),
      sail(2, INK.harbour, 3),
      sail(3, INK.deep, 6),
      words(
        'title',
        'Title',
        140,
        260,
        1000,
        120,
        'Skerry Point Kite Trials',
        { family: 'Oswald', size: 92, weight: 700, across: 'centre' },
        {
          turnX: -28,
          in: move('letters', 16, { start: 14, edge: 'bottom' }),
          out: move('fade', 6),
          change: move('fade', 12),
          glow: { blur: 24, colour: INK.straw, opacity: 0.35 },
        },
      ),
      words(
        'under',
        'Under it',
        140,
        390,
        1000,
        50,
        'live from the pier',
        { size: 34, weight: 400, across: 'centre', letterSpacing: 3 },
        {
          fill: colourFill(INK.mist),
          in: move('fade', 10, { start: 20 }),
          out: move('fade', 6),
          change: move('fade', 12),
          hideWhenEmpty: true,
        },
      ),
    ],
    fields: [textField('title', 'Title', 'Skerry Point Kite Trials', 40), textField('under', 'Under it', 'live from the pier', 60)],
    entries: [entry('open-1', 1, { title: 'Skerry Point Kite Trials', under: 'live from the pier' })],
    stingerFrames: 75,
    cutFrame: 32,
  });
};
