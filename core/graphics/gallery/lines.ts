/** What comes from sheets: a line of news along the lower edge, and standings whose rows change places. */
import { colourFill, contentOf, createElement, move, textStyle } from '../create';
import { type TableContent, type TickerContent } from '../element';
import { box, graphic, INK, words } from './parts';

export const newsLine = () => {
  const slide = { in: move('slide', 14, { edge: 'bottom', easing: 'out' }), out: move('slide', 12, { edge: 'bottom', easing: 'in' }) };
  return graphic('news-line', 'News line', {
    elements: [
      box('band', 'Band', 0, 664, 1280, 44, colourFill(INK.deep, 0.88), slide),
      createElement(
        'line',
        'ticker',
        { x: 172, y: 664, width: 1108, height: 44 },
        {
          name: 'News',
          fill: colourFill(INK.cloth),
          ...slide,
          content: {
            ...(contentOf('ticker', 44) as TickerContent),
            items: ['Kite day at Skerry Point', 'Four lines, one gust'],
            separator: '◆',
            speed: 100,
            gap: 18,
            style: textStyle(44, { family: 'Barlow Condensed', size: 28 }),
          },
        },
      ),
      box('tab', 'Tab', 0, 664, 172, 44, INK.straw, slide),
      words(
        'name',
        'Name',
        16,
        664,
        140,
        44,
        'SKERRY',
        { family: 'Oswald', size: 24, across: 'centre' },
        { ...slide, fill: colourFill(INK.deep) },
      ),
    ],
    fields: [],
    entries: [],
  });
};

export const standingsTable = () => {
  const wipe = { in: move('wipe', 16, { edge: 'top', easing: 'out' }), out: move('wipe', 12, { edge: 'top', easing: 'in' }) };
  return graphic('standings-table', 'Standings, live', {
    elements: [
      box('head', 'Head', 70, 150, 560, 56, INK.straw, wipe),
      words('title', 'Title', 90, 150, 520, 56, 'STANDINGS', { family: 'Oswald', size: 34 }, { ...wipe, fill: colourFill(INK.deep) }),
      createElement(
        'rows',
        'table',
        { x: 70, y: 212, width: 560, height: 330 },
        {
          name: 'Rows',
          fill: colourFill(INK.cloth),
          ...wipe,
          change: move('fade', 12),
          content: {
            ...(contentOf('table', 330) as TableContent),
            columns: [
              { column: 'Pilot', share: 3, across: 'left' },
              { column: 'Club', share: 2.4, across: 'left' },
              { column: 'Points', share: 1.1, across: 'right' },
            ],
            sortBy: 'Points',
            count: 6,
            rowHeight: 50,
            gap: 5,
            plate: INK.deep,
            plateOpacity: 0.88,
            style: textStyle(50, { family: 'Barlow Condensed', size: 28 }),
          },
        },
      ),
    ],
    fields: [],
    entries: [],
  });
};
