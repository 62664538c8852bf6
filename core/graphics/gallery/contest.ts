/** What counts: score, clock, schedule, results. */
import { colourFill, createElement, move, textStyle } from '../create';
import { type Element } from '../element';
import { box, entry, field, graphic, group, INK, LUFF, textField, words } from './parts';

export const score = () =>
  graphic('score', 'Heat score', {
    elements: [
      box('bar', 'Bar', 80, 52, 560, 64, colourFill(INK.deep, 0.9), { skewX: LUFF, in: move('wipe', 12), out: move('wipe', 10) }),
      box('heat-plate', 'Heat plate', 80, 52, 130, 64, INK.straw, { skewX: LUFF, in: move('wipe', 8), out: move('wipe', 10) }),
      words(
        'heat-word',
        'Word',
        96,
        58,
        96,
        22,
        'HEAT',
        { size: 17, across: 'centre', letterSpacing: 2 },
        { fill: colourFill(INK.deep), in: move('fade', 6, { start: 6 }), out: move('fade', 5) },
      ),
      words(
        'heat',
        'Heat',
        96,
        78,
        96,
        36,
        '3',
        { size: 32, weight: 700, across: 'centre' },
        { fill: colourFill(INK.deep), in: move('fade', 6, { start: 6 }), out: move('fade', 5), change: move('slide', 16, { edge: 'top' }) },
      ),
      words(
        'left',
        'Left pilot',
        226,
        60,
        150,
        48,
        'Pilot',
        { size: 28, across: 'right' },
        { in: move('fade', 8, { start: 8 }), out: move('fade', 5), change: move('fade', 12) },
      ),
      words(
        'left-points',
        'Left points',
        384,
        60,
        60,
        48,
        '0',
        { family: 'IBM Plex Mono', size: 34, across: 'centre' },
        { fill: colourFill(INK.straw), in: move('fade', 8, { start: 8 }), out: move('fade', 5), change: move('count', 14) },
      ),
      words(
        'right-points',
        'Right points',
        448,
        60,
        60,
        48,
        '0',
        { family: 'IBM Plex Mono', size: 34, across: 'centre' },
        { fill: colourFill(INK.straw), in: move('fade', 8, { start: 8 }), out: move('fade', 5), change: move('count', 14) },
      ),
      words(
        'right',
        'Right pilot',
        516,
        60,
        150,
        48,
        'Pilot',
        { size: 28 },
        { in: move('fade', 8, { start: 8 }), out: move('fade', 5), change: move('fade', 12) },
      ),
    ],
    fields: [
      field('heat', 'Heat', { kind: 'number', number: 3 }, [{ elementId: 'heat', property: 'content', part: null }], {
        least: 1,
        most: 40,
      }),
      textField('left', 'Left pilot', 'Tolv', 20),
      field('left-points', 'Left points', { kind: 'number', number: 0 }, [{ elementId: 'left-points', property: 'content', part: null }], {
        least: 0,
        most: 999,
      }),
      field(
        'right-points',
        'Right points',
        { kind: 'number', number: 0 },
        [{ elementId: 'right-points', property: 'content', part: null }],
        {
          least: 0,
          most: 999,
        },
      ),
      textField('right', 'Right pilot', 'Ferrand', 20),
    ],
    entries: [
      entry('score-1', 1, { heat: 3, left: 'Tolv', 'left-points': 12, 'right-points': 9, right: 'Ferrand' }),
      entry('score-2', 2, { heat: 4, left: 'Quill', 'left-points': 0, 'right-points': 0, right: 'Sandmark' }),
    ],
  });

export const heatClock = () =>
  graphic('heat-clock', 'Heat clock', {
    elements: [
      box('dial', 'Dial', 1040, 52, 170, 70, colourFill(INK.deep, 0.9), {
        corners: { topLeft: 35, topRight: 35, bottomRight: 35, bottomLeft: 35 },
        stroke: { width: 3, colour: INK.straw, opacity: 1, place: 'inside', dash: 'solid' },
        in: move('scale', 10, { easing: 'out' }),
        out: move('scale', 8, { easing: 'in' }),
      }),
      createElement(
        'time',
        'clock',
        { x: 1052, y: 58, width: 146, height: 58 },
        {
          name: 'Time',
          content: {
            kind: 'clock',
            clockId: 'heat',
            format: 'm:ss',
            style: textStyle(58, { family: 'IBM Plex Mono', size: 44, across: 'centre' }),
            lastSeconds: 10,
            lastColour: INK.red,
          },
          in: move('fade', 8, { start: 4 }),
          out: move('fade', 5),
        },
      ),
    ],
    fields: [field('clock', 'Clock', { kind: 'clock', clockId: 'heat' }, [{ elementId: 'time', property: 'content', part: null }])],
    entries: [],
  });

/** Rows of words with a place of their own each, that come one after another. */
function rows(count: number, y: number, step: number, make: (row: number, top: number) => Element[]): Element[] {
  return Array.from({ length: count }, (_, i) => make(i + 1, y + i * step)).flat();
}

export const schedule = () =>
  graphic('schedule', 'Schedule', {
    elements: [
      box('sheet', 'Sheet', 80, 130, 480, 480, colourFill(INK.deep, 0.88), { in: move('wipe', 14, { edge: 'top' }), out: move('fade', 8) }),
      box('head', 'Head', 80, 130, 480, 62, INK.straw, { in: move('wipe', 10), out: move('fade', 8) }),
      words(
        'title',
        'Title',
        104,
        136,
        432,
        50,
        'Today',
        { size: 34, weight: 700 },
        { fill: colourFill(INK.deep), in: move('fade', 8, { start: 6 }), out: move('fade', 6), change: move('fade', 12) },
      ),
      group('rows', 'Rows', 80, 206, 480, 390, 'column', { content: { kind: 'group', flow: 'column', align: 'start' } }),
      ...rows(6, 206, 65, (n, y) => [
        group(`row-${n}`, `Row ${n}`, 104, y, 432, 60, 'none', {
          parentId: 'rows',
          in: move('slide', 12, { start: 4 + n * 2, easing: 'out' }),
          out: move('fade', 8),
          change: move('fade', 12),
        }),
        words(
          `time-${n}`,
          `Time ${n}`,
          104,
          y,
          110,
          60,
          '10:00',
          { family: 'IBM Plex Mono', size: 30 },
          { parentId: `row-${n}`, hideWhenEmpty: true, fill: colourFill(INK.straw) },
        ),
        words(`what-${n}`, `What ${n}`, 224, y, 312, 60, 'Heat', { size: 30, weight: 400 }, { parentId: `row-${n}`, hideWhenEmpty: true }),
      ]),
    ],
    fields: [
      textField('title', 'Title', 'Today', 40),
      ...[1, 2, 3, 4, 5, 6].flatMap((n) => [textField(`time-${n}`, `Time ${n}`, '', 8), textField(`what-${n}`, `What ${n}`, '', 40)]),
    ],
    entries: [
      entry('day-1', 1, {
        title: 'Today at the pier',
        'time-1': '10:00',
        'what-1': 'Heat 3',
        'time-2': '10:40',
        'what-2': 'Heat 4',
        'time-3': '11:30',
        'what-3': 'Box kites',
        'time-4': '13:00',
        'what-4': 'Semi-finals',
        'time-5': '15:20',
        'what-5': 'Final',
      }),
      entry('day-2', 2, {
        title: 'Tomorrow',
        'time-1': '09:30',
        'what-1': 'Children’s kites',
        'time-2': '11:00',
        'what-2': 'Night flight, rehearsal',
      }),
    ],
  });

export const results = () =>
  graphic('results', 'Results', {
    elements: [
      box(
        'sea',
        'Sea',
        0,
        0,
        1280,
        720,
        {
          kind: 'linear',
          angle: 90,
          length: 1,
          spread: 'pad',
          stops: [
            { at: 0, colour: '#0f2c3f', opacity: 1 },
            { at: 1, colour: INK.deep, opacity: 1 },
          ],
        },
        { in: move('fade', 10), out: move('fade', 10) },
      ),
      createElement(
        'kite',
        'polygon',
        { x: 980, y: 60, width: 190, height: 240 },
        {
          name: 'Kite',
          content: { kind: 'polygon', sides: 4 },
          rotation: 18,
          fill: colourFill(INK.straw, 0.9),
          in: move('slide', 18, { edge: 'top', easing: 'out' }),
          out: move('fade', 8),
        },
      ),
      words(
        'title',
        'Title',
        110,
        70,
        800,
        90,
        'Results',
        { family: 'Oswald', size: 76, weight: 700, capitals: 'upper' },
        { in: move('letters', 18, { start: 4 }), out: move('fade', 8), change: move('fade', 12) },
      ),
      ...rows(5, 190, 92, (n, y) => [
        box(`stripe-${n}`, `Stripe ${n}`, 110, y, 840, 76, colourFill(n % 2 ? INK.raised : INK.panel, 0.9), {
          skewX: LUFF,
          in: move('wipe', 12, { start: 4 + n * 3 }),
          out: move('fade', 8),
        }),
        words(
          `place-${n}`,
          `Place ${n}`,
          130,
          y,
          70,
          76,
          String(n),
          { family: 'Oswald', size: 46, weight: 700, across: 'centre' },
          { fill: colourFill(INK.straw), in: move('fade', 8, { start: 10 + n * 3 }), out: move('fade', 8) },
        ),
        words(
          `pilot-${n}`,
          `Pilot ${n}`,
          220,
          y,
          500,
          76,
          'Pilot',
          { size: 40 },
          { in: move('fade', 8, { start: 10 + n * 3 }), out: move('fade', 8), change: move('fade', 12) },
        ),
        words(
          `points-${n}`,
          `Points ${n}`,
          740,
          y,
          180,
          76,
          '0',
          { family: 'IBM Plex Mono', size: 42, across: 'right' },
          { in: move('count', 24, { start: 10 + n * 3 }), out: move('fade', 8), change: move('count', 16) },
        ),
      ]),
    ],
    fields: [
      textField('title', 'Title', 'Results', 30),
      ...[1, 2, 3, 4, 5].flatMap((n) => [
        textField(`pilot-${n}`, `Pilot ${n}`, '', 40),
        field(
          `points-${n}`,
          `Points ${n}`,
          { kind: 'number', number: 0 },
          [{ elementId: `points-${n}`, property: 'content', part: null }],
          {
            least: 0,
            most: 9999,
          },
        ),
      ]),
    ],
    entries: [
      entry('result-1', 1, {
        title: 'After heat 3',
        'pilot-1': 'Maren Tolv',
        'points-1': 128,
        'pilot-2': 'Osk Ferrand',
        'points-2': 121,
        'pilot-3': 'Edda Quill',
        'points-3': 117,
        'pilot-4': 'Bo Sandmark',
        'points-4': 98,
        'pilot-5': 'Tiril Haug',
        'points-5': 90,
      }),
    ],
  });
