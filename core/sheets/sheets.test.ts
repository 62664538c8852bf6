/** Sheets: encodings, forms, columns that meet fields, cells as values. */
import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { createField } from '../graphics/create';
import { type Value } from '../graphics/document';
import { decodeText, encodingOf } from './decode';
import { createSheet } from './create';
import { sheetFaults } from './into-entries';
import { matchColumns, valueOfCell } from './match';
import { numberOfWords } from './numbers';
import { cellsOf, lineOf } from './row';
import { foundRows, rowKeys } from './rows';
import { readDelimited, readJson, readText, SheetError, tableOf } from './table';

const utf16 = (text: string, big: boolean, mark: boolean): Uint8Array => {
  const units = [...(mark ? '\ufeff' : ''), ...text].join('');
  return Uint8Array.from({ length: units.length * 2 }, (_, i) => {
    const unit = units.charCodeAt(i >> 1);
    return (i % 2 === 0) === big ? unit >> 8 : unit & 255;
  });
};
const latin = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));

describe('text of a file', () => {
  it('is read in the encoding that it has', () => {
    const text = 'Name;Ort\r\nÅsa Höjd;Öland\n';
    const plain = text.replaceAll('\r\n', '\n');
    for (const [bytes, encoding] of [
      [new TextEncoder().encode(text), 'utf-8'],
      [new TextEncoder().encode(`\ufeff${text}`), 'utf-8'],
      [utf16(text, false, true), 'utf-16le'],
      [utf16(text, true, true), 'utf-16be'],
      [utf16(text, false, false), 'utf-16le'],
      [utf16(text, true, false), 'utf-16be'],
      [latin(text), 'windows-1252'],
    ] as const) {
      expect(encodingOf(bytes)).toBe(encoding);
      expect(decodeText(bytes).text).toBe(plain);
    }
  });
});

describe('a sheet', () => {
  it('is read whatever stands between its cells, quotes and line ends in cells too', () => {
    for (const sign of [',', ';', '\t', '|']) {
      const text = [`Name${sign}Points`, `"Ada ""Gust"" Holm"${sign}12`, '', `"two\nlines"${sign}7`].join('\n');
      expect(readDelimited(text)).toEqual({
        columns: ['Name', 'Points'],
        rows: [
          ['Ada "Gust" Holm', '12'],
          ['two\nlines', '7'],
        ],
        numbers: [2, 4],
      });
    }
  });

  it('comes back as it was written, whatever its cells hold', () => {
    const cell = fc.string({ unit: fc.constantFrom('a', 'é', ' ', ',', ';', '"', '\n', '=', '<'), maxLength: 8 });
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 8 }), (rows) => {
        const table = readDelimited(Papa.unparse([['One', 'Two'], ...rows], { newline: '\n' }));
        expect(table.rows).toEqual(rows.filter((r) => r.some((c) => c.trim() !== '')));
      }),
    );
  });

  it('gives every column a name of its own', () => {
    expect(
      tableOf([
        ['', 'Name', 'name', '', ''],
        ['x', 'y', 'z', 'w', ''],
      ]).columns,
    ).toEqual(['Column 1', 'Name', 'name 2']);
  });

  it('of JSON may be lists or objects, also inside of an object', () => {
    const wanted = {
      columns: ['name', 'points'],
      rows: [
        ['Ada', '3'],
        ['Bo', ''],
      ],
    };
    expect(readJson('[{"name":"Ada","points":3},{"name":"Bo"}]')).toMatchObject(wanted);
    expect(readJson('{"at":1,"rows":[["name","points"],["Ada",3],["Bo",null]]}')).toMatchObject(wanted);
    expect(readJson('[{"constructor":"x","__proto__":"y"}]').rows).toEqual([['x', 'y']]);
  });

  it('is refused in words when it is none, or too large', () => {
    const refused = (read: () => unknown, why: RegExp) => {
      expect(read).toThrow(SheetError);
      expect(read).toThrow(why);
    };
    refused(() => readText(latin('<!doctype html><table>')), /a page \(HTML\)/);
    refused(() => readText(latin('{"a":')), /no JSON/);
    refused(() => readText(latin('[]')), /no list of rows/);
    refused(() => readText(latin('[{"a":1},7]')), /Row 2 is no object: 7/);
    refused(() => readText(latin(' \n;;\n')), /empty/);
    refused(() => readText(latin(Array.from({ length: 10_000 }, (_, i) => `c${i}`).join(','))), /10000 columns/);
    refused(() => tableOf(Array.from({ length: 100_002 }, () => ['x'])), /rows/);
  });

  it('whatever its bytes are, is read or refused in words', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
        try {
          const table = readText(bytes);
          expect(table.rows.every((r) => r.length === table.columns.length)).toBe(true);
        } catch (error) {
          expect(error).toBeInstanceOf(SheetError);
        }
      }),
    );
  });
});

describe('columns and fields', () => {
  const text: Value = { kind: 'text', text: '' };
  const fields = [
    createField('n', 'Pilot’s name', text, { longest: 10 }),
    createField('p', 'Points', { kind: 'number', number: 0 }, { least: 0, most: 100 }),
    createField('f', 'Out', { kind: 'flag', on: false }),
    createField('c', 'Sail', { kind: 'colour', colour: '#000000' }),
    createField('k', 'Class', { kind: 'choice', choice: '' }, { choices: ['Open', 'Light'] }),
  ];

  it('meet by their names', () => {
    expect(matchColumns(fields, ['PILOTS NAME', 'points ', 'Älter', 'out'])).toEqual({ n: 'PILOTS NAME', p: 'points ', f: 'out' });
  });

  it('take numbers as people write them', () => {
    expect(['12', ' 1 234,5 ', '1.234,5', '1,234.5', '−3', '7 %', '0.5', "12'000"].map(numberOfWords)).toEqual([
      12, 1234.5, 1234.5, 1234.5, -3, 7, 0.5, 12000,
    ]);
    expect(['', 'x', '1e9', '=1+1', '12a', '9'.repeat(300), '1,2,3'].map(numberOfWords)).toEqual([
      null,
      null,
      null,
      null,
      null,
      null,
      null,
    ]);
  });

  it('check every cell, and name its row and column', () => {
    const table = tableOf([
      ['Pilot', 'Points', 'Out', 'Sail', 'Class'],
      ['Ada', '12', 'x', '#E2C48D', 'open'],
      ['A name that is long', 'many', 'perhaps', 'red', 'Heavy'],
      ['Ada', '101', '', '', ''],
    ]);
    const map = { n: 'Pilot', p: 'Points', f: 'Out', c: 'Sail', k: 'Class' };
    const link = { sheetId: 's', all: true, columns: Object.entries(map).map(([fieldId, column]) => ({ fieldId, column })) };
    const sheet = createSheet('s', 'S', { kind: 'typed' }, { columns: table.columns, rows: table.rows.map(lineOf), key: 'Pilot' });
    expect(fields.map((f, i) => valueOfCell(f, table.rows[0]?.[i] ?? ''))).toEqual([
      { kind: 'text', text: 'Ada' },
      { kind: 'number', number: 12 },
      { kind: 'flag', on: true },
      { kind: 'colour', colour: '#e2c48d' },
      { kind: 'choice', choice: 'Open' },
    ]);
    expect(sheetFaults(fields, link, sheet).map((f) => `${f.row} ${f.column}`)).toEqual([
      '3 Pilot',
      '2 Pilot',
      '2 Points',
      '2 Out',
      '2 Sail',
      '2 Class',
      '3 Points',
    ]);
    expect(rowKeys(sheet).keys).toEqual(['Ada', 'A name that is long', 'Ada (2)']);
    expect(valueOfCell(createField('i', 'Face', { kind: 'image', assetId: null }), 'face.png')).toMatch(/takes an image/);
  });
});

describe('rows as lines', () => {
  it('come back as they were, whatever stands in their cells', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ unit: fc.constantFrom('a', '\t', '\n', '\\', 't', 'n', 'é') }), { minLength: 1 }), (cells) => {
        const line = lineOf(cells);
        expect(line).not.toContain('\n');
        expect(cellsOf(line)).toEqual(cells);
      }),
    );
  });

  it('are found by their words, whatever the capitals', () => {
    const rows = ['Ada\tPier', 'Bo\tQuay', 'ADA\tquay'];
    expect([foundRows(rows, ' '), foundRows(rows, 'quay'), foundRows(rows, 'ada QUAY'), foundRows(rows, 'none')]).toEqual([
      null,
      [1, 2],
      [2],
      [],
    ]);
  });
});
