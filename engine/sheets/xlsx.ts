/** Workbooks (Office Open XML, ECMA-376): their first sheet. What would unpack into far more than a sheet is refused before it is unpacked. */
import { BlobReader, ZipReader } from '@zip.js/zip.js';
import { readSheet } from 'read-excel-file/web-worker';
import { SheetError, type Table, tableOf } from '#core/sheets/table';

/** Bytes of all parts of a workbook together, unpacked, and how many parts. */
const UNPACKED_LIMIT = 200e6;
const MOST_PARTS = 2000;

/** @throws SheetError when it is no workbook, or a bomb. */
async function check(file: Blob): Promise<void> {
  const zip = new ZipReader(new BlobReader(file), { useWebWorkers: false });
  try {
    const entries = await zip.getEntries().catch(() => {
      throw new SheetError('It is a damaged workbook. Save it again where it was made.');
    });
    if (!entries.some((e) => e.filename === 'xl/workbook.xml')) throw new SheetError('It is a zip, and no workbook (XLSX).');
    const size = entries.reduce((sum, e) => sum + (e.directory ? 0 : e.uncompressedSize), 0);
    if (size > UNPACKED_LIMIT || entries.length > MOST_PARTS)
      throw new SheetError(
        `It would unpack into ${Math.round(size / 1e6)} MB in ${entries.length} parts, more than ${UNPACKED_LIMIT / 1e6} MB. Save just the table.`,
      );
  } finally {
    await zip.close();
  }
}

/** The first sheet of a workbook; formulas count as what they came to when it was saved. @throws SheetError. */
export async function readXlsx(file: Blob): Promise<Table> {
  await check(file);
  const rows = await readSheet(file).catch((error: unknown) => {
    throw new SheetError(
      `Its table cannot be read: ${error instanceof Error ? error.message : 'it is damaged'}. Save it again, or as CSV.`,
    );
  });
  return tableOf(rows);
}
