/** What comes from the audience: a comment with its name and picture, and a poll whose bars grow. Their words come from sheets of the show. */
import { colourFill, createElement, createEntry, move } from '../create';
import { type Element } from '../element';
import { type Field, type Graphic } from '../document';
import { box, field, graphic, INK, textField, words } from './parts';

/** Columns of a sheet of comments that fill the fields of the card. */
export const COMMENT_FIELDS = [
  { fieldId: 'name', column: 'Name' },
  { fieldId: 'text', column: 'Text' },
  { fieldId: 'picture', column: 'Picture' },
] as const;

export const commentCard = (): Graphic =>
  graphic('comment-card', 'Comment', {
    elements: [
      box('card', 'Card', 90, 516, 900, 150, colourFill(INK.cloth, 0.97), {
        corners: { topLeft: 75, topRight: 18, bottomRight: 18, bottomLeft: 75 },
        shadow: { x: 0, y: 6, blur: 22, spread: 0, colour: '#000000', opacity: 0.5 },
        in: move('slide', 14, { edge: 'bottom', easing: 'out' }),
        out: move('slide', 12, { edge: 'bottom', easing: 'in' }),
      }),
      createElement(
        'disc',
        'ellipse',
        { x: 104, y: 530, width: 122, height: 122 },
        {
          name: 'Disc',
          fill: colourFill(INK.harbour),
          in: move('slide', 14, { edge: 'bottom', easing: 'out' }),
          out: move('slide', 12, { edge: 'bottom', easing: 'in' }),
        },
      ),
      createElement(
        'picture',
        'ellipse',
        { x: 110, y: 536, width: 110, height: 110 },
        {
          name: 'Picture',
          fill: colourFill(INK.straw),
          in: move('scale', 10, { start: 8, easing: 'out' }),
          out: move('fade', 6),
          change: move('fade', 12),
        },
      ),
      words(
        'name',
        'Name',
        250,
        530,
        710,
        36,
        'Name',
        { size: 26 },
        { fill: colourFill(INK.harbour), in: move('fade', 8, { start: 10 }), out: move('fade', 5), change: move('fade', 12) },
      ),
      words(
        'text',
        'Comment',
        250,
        566,
        710,
        88,
        'Comment',
        { family: 'Bitter', size: 30, weight: 400, wrap: true, down: 'top' },
        { fill: colourFill(INK.deep), in: move('fade', 10, { start: 10 }), out: move('fade', 5), change: move('fade', 14) },
      ),
    ],
    fields: [
      textField('name', 'Name', '', 40),
      textField('text', 'Comment', '', 280),
      field('picture', 'Picture', { kind: 'image', assetId: null }, [{ elementId: 'picture', property: 'fill', part: null }]),
    ],
    entries: [
      createEntry('comment-1', 1, [
        { fieldId: 'name', value: { kind: 'text', text: 'Jory, Pebble Street' } },
        { fieldId: 'text', value: { kind: 'text', text: 'The wind is turning: watch the flag on the mast!' } },
      ]),
    ],
  });

const ROWS = [1, 2, 3, 4, 5] as const;
/** Longest bar, pixels. */
const BAR = 420;

/** The bars of a poll, from a sheet of this name: whatever poll that sheet holds. */
export const pollBars = (sheet = 'Poll'): Graphic => {
  const from = (n: number, column: string, none: string) => `lookup("${sheet.replaceAll('"', '""')}", "No", ${n}, "${column}", ${none})`;
  const own = (elementId: string, property: 'content' | 'width') => [{ elementId, property, part: null }];
  const row = (n: number): Element[] => {
    const y = 250 + (n - 1) * 74;
    const come = { in: move('fade', 8, { start: 6 + n * 2 }), out: move('fade', 6) };
    return [
      box(`bar-${n}`, `Bar ${n}`, 120, y + 34, BAR, 22, INK.straw, { ...come, in: move('wipe', 14, { start: 8 + n * 2 }) }),
      words(
        `choice-${n}`,
        `Choice ${n}`,
        120,
        y,
        400,
        32,
        `Choice ${n}`,
        { size: 24 },
        { ...come, hideWhenEmpty: true, change: move('fade', 10) },
      ),
      words(
        `share-${n}`,
        `Share ${n}`,
        550,
        y + 26,
        100,
        36,
        '50 %',
        { family: 'IBM Plex Mono', size: 26, across: 'right' },
        { ...come, hideWhenEmpty: true, change: move('count', 14) },
      ),
    ];
  };
  const fields = (n: number): Field[] => [
    textField(`choice-${n}`, `Choice ${n}`, '', 80, { formula: from(n, 'Choice', '""') }),
    textField(`share-${n}`, `Share ${n}`, '', 12, {
      formula: `if(empty(${from(n, 'Choice', '""')}), "", ${from(n, 'Share', '0')} & " %")`,
    }),
    field(`width-${n}`, `Width ${n}`, { kind: 'number', number: 0 }, own(`bar-${n}`, 'width'), {
      formula: `${from(n, 'Share', '0')} * ${BAR / 100}`,
    }),
  ];
  return graphic('poll-bars', 'Poll', {
    elements: [
      box('plate', 'Plate', 80, 120, 610, 520, colourFill(INK.deep, 0.9), {
        corners: { topLeft: 16, topRight: 16, bottomRight: 16, bottomLeft: 16 },
        in: move('wipe', 14, { edge: 'top', easing: 'out' }),
        out: move('fade', 10),
      }),
      words(
        'question',
        'Question',
        120,
        140,
        530,
        92,
        'Question',
        { family: 'Bitter', size: 34, wrap: true },
        { in: move('fade', 10, { start: 6 }), out: move('fade', 6), change: move('fade', 12) },
      ),
      ...ROWS.flatMap(row),
    ],
    fields: [textField('question', 'Question', '', 160, { formula: from(1, 'Question', '""') }), ...ROWS.flatMap(fields)],
    entries: [createEntry('poll-1', 1)],
  });
};
