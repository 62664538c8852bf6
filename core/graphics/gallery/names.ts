/** Who is who: one name, two names, a quote, a question. */
import { colourFill, createAccent, move } from '../create';
import { box, entry, graphic, group, INK, LUFF, textField, words } from './parts';

/** The plate: a slanted straw edge like a sail's luff, the name, and who that is. */
export const nameCard = () =>
  graphic('name-card', 'Name card', {
    elements: [
      box('plate', 'Plate', 81, 565, 633, 119, colourFill(INK.deep, 0.88), { skewX: LUFF, in: move('wipe', 12), out: move('wipe', 10) }),
      box('edge', 'Edge', 81, 565, 12, 119, INK.straw, { skewX: LUFF, in: move('slide', 10, { easing: 'out' }), out: move('fade', 8) }),
      group('lines', 'Lines', 121, 565, 564, 119, 'column', { in: move('fade', 8, { start: 4 }), out: move('fade', 6) }),
      words('name', 'Name', 121, 581.5, 564, 57, 'Name', { size: 50 }, { parentId: 'lines', change: move('fade', 12) }),
      words(
        'role',
        'Who that is',
        112,
        638.5,
        564,
        33,
        'Who that is',
        { size: 30, weight: 400 },
        { parentId: 'lines', hideWhenEmpty: true, fill: colourFill(INK.mist), change: move('wipe', 12) },
      ),
    ],
    fields: [
      textField('name', 'Name', '', 60, { hint: 'first line' }),
      textField('role', 'Who that is', '', 90, { hint: 'second line; empty for none' }),
    ],
    entries: [
      entry('card-1', 1, { name: 'Maren Tolv', role: 'Pilot, heat 4 · Lantern Bay' }),
      entry('card-2', 2, { name: 'Osk Ferrand', role: 'Pilot, heat 4 · North Skerry' }),
      entry('card-3', 3, { name: 'Ilse Quay & Bram Dory', role: 'Commentary' }),
    ],
  });

export const twoNames = () => {
  const side = (n: 1 | 2, x: number) => [
    box(`plate-${n}`, `Plate ${n}`, x, 590, 500, 84, colourFill(INK.deep, 0.88), {
      skewX: LUFF,
      in: move('wipe', 12, { edge: n === 1 ? 'left' : 'right' }),
      out: move('fade', 8),
    }),
    box(`line-${n}`, `Line ${n}`, x - 11, 668, 500, 6, INK.straw, {
      in: move('wipe', 14, { edge: n === 1 ? 'left' : 'right' }),
      out: move('fade', 8),
    }),
    words(
      `name-${n}`,
      `Name ${n}`,
      x + 24,
      596,
      440,
      42,
      `Name ${n}`,
      { size: 36 },
      { in: move('fade', 8, { start: 6 }), out: move('fade', 6), change: move('fade', 12) },
    ),
    words(
      `role-${n}`,
      `Role ${n}`,
      x + 18,
      636,
      440,
      28,
      'Role',
      { size: 23, weight: 400 },
      {
        fill: colourFill(INK.mist),
        hideWhenEmpty: true,
        in: move('fade', 8, { start: 8 }),
        out: move('fade', 6),
        change: move('fade', 12),
      },
    ),
  ];
  return graphic('two-names', 'Two names', {
    elements: [...side(1, 80), ...side(2, 700)],
    fields: [
      textField('name-1', 'Left name', '', 40),
      textField('role-1', 'Left role', '', 60),
      textField('name-2', 'Right name', '', 40),
      textField('role-2', 'Right role', '', 60),
    ],
    entries: [
      entry('pair-1', 1, { 'name-1': 'Ilse Quay', 'role-1': 'Commentary', 'name-2': 'Sunniva Marl', 'role-2': 'Wind analyst' }),
      entry('pair-2', 2, { 'name-1': 'Maren Tolv', 'role-1': 'Lantern Bay', 'name-2': 'Osk Ferrand', 'role-2': 'North Skerry' }),
    ],
  });
};

export const quote = () =>
  graphic('quote', 'Quote', {
    elements: [
      box('sheet', 'Sheet', 150, 430, 980, 220, colourFill(INK.deep, 0.9), {
        corners: { topLeft: 0, topRight: 60, bottomRight: 0, bottomLeft: 60 },
        in: move('fade', 10),
        out: move('fade', 8),
      }),
      words(
        'mark',
        'Mark',
        176,
        420,
        110,
        130,
        '“',
        { family: 'Playfair Display', size: 150, down: 'top', overflow: 'spill' },
        { fill: colourFill(INK.straw), in: move('scale', 12), out: move('fade', 8) },
      ),
      words(
        'said',
        'What was said',
        280,
        452,
        800,
        126,
        'What was said',
        { family: 'Playfair Display', size: 44, weight: 400, italic: true, wrap: true },
        { in: move('words', 30, { start: 6, edge: 'bottom' }), out: move('fade', 8), change: move('fade', 16) },
        [createAccent('*', { colour: INK.straw })],
      ),
      words(
        'by',
        'By whom',
        280,
        588,
        800,
        40,
        'By whom',
        { size: 28 },
        { fill: colourFill(INK.straw), in: move('fade', 10, { start: 14 }), out: move('fade', 8), change: move('fade', 16) },
      ),
    ],
    fields: [textField('said', 'What was said', '', 220, { hint: 'words between two * stand out' }), textField('by', 'By whom', '', 60)],
    entries: [
      entry('quote-1', 1, { said: 'The wind here *has opinions*, and it is never wrong for long.', by: 'Maren Tolv, pilot' }),
      entry('quote-2', 2, { said: 'I tied the last knot with my teeth.', by: 'Osk Ferrand, pilot' }),
    ],
  });

export const question = () =>
  graphic('question', 'Question', {
    elements: [
      box('card', 'Card', 690, 90, 520, 260, colourFill(INK.cloth, 0.97), {
        corners: { topLeft: 28, topRight: 28, bottomRight: 0, bottomLeft: 28 },
        shadow: { x: 0, y: 8, blur: 26, spread: 0, colour: '#000000', opacity: 0.5 },
        in: move('slide', 14, { edge: 'right', easing: 'out' }),
        out: move('slide', 12, { edge: 'right', easing: 'in' }),
      }),
      words(
        'asks',
        'Who asks',
        722,
        108,
        456,
        40,
        'Who asks',
        { size: 26 },
        { fill: colourFill(INK.harbour), in: move('fade', 8, { start: 10 }), out: move('fade', 5), change: move('fade', 12) },
      ),
      words(
        'text',
        'Question',
        722,
        152,
        456,
        180,
        'Question',
        { family: 'Bitter', size: 34, weight: 400, wrap: true, down: 'top' },
        { fill: colourFill(INK.deep), in: move('letters', 24, { start: 10 }), out: move('fade', 5), change: move('fade', 14) },
      ),
    ],
    fields: [textField('asks', 'Who asks', '', 40), textField('text', 'Question', '', 200)],
    entries: [
      entry('ask-1', 1, { asks: 'Jory, Pebble Street', text: 'How do they keep four lines from crossing in a gust?' }),
      entry('ask-2', 2, { asks: 'نور من الميناء', text: 'ما هي أعلى سرعة للريح اليوم؟' }),
      entry('ask-3', 3, { asks: 'דנה', text: 'מי שופט את המקצה הבא?' }),
      entry('ask-4', 4, { asks: 'आशा', text: 'अगला दौर कब है?' }),
    ],
  });
