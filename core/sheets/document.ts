/** Sheets in the show document: rows of words, where they come from, and the images that their cells name. */
import { byKind, Id, ListOf, Num, OneOf, Ref, Text, TextList, Variant, Whole } from '../schema/fields';

export const MOST_SHEETS = 50;
export const MOST_SHEET_ROWS = 50_000;
export const MOST_SHEET_COLUMNS = 500;
/** Characters of a row, all cells together. */
export const MOST_LINE = 20_000;
/** Images that the cells of a sheet name. */
export const MOST_IMAGES = 2000;
/** Characters of a sheet. */
export const MOST_SHEET_CHARACTERS = 20e6;

export class TypedSource {
  @OneOf(['typed'], 'typed or pasted here') kind!: 'typed';
}
export class FileSource {
  @OneOf(['file'], 'a file') kind!: 'file';
  @Text(256, 'name of the file as it came') fileName!: string;
}
export class AddressSource {
  @OneOf(['address'], 'an address that is asked again and again, by the server') kind!: 'address';
  @Text(2000, 'the address, http or https', { min: 1 }) address!: string;
  @Num(0.5, 86_400, 'seconds from one time to the next') everySeconds!: number;
  @Num(0.5, 60, 'given up after so many seconds') timeoutSeconds!: number;
  @Num(0.01, 50, 'largest that is taken, megabytes') mostMegabytes!: number;
  @TextList(20, 300, 'hosts that it may send on to, or that are in this network, as somebody has allowed') allowed!: string[];
}
export class CommentsSource {
  @OneOf(['comments'], 'the comments that were chosen') kind!: 'comments';
}
export class PollSource {
  @OneOf(['poll'], 'the choices of a poll with their votes') kind!: 'poll';
  @Ref('poll', 'the poll; null for the one on the page of the audience', { nullable: true }) pollId!: string | null;
}
export type SheetSource = TypedSource | FileSource | AddressSource | CommentsSource | PollSource;
export type SheetSourceKind = SheetSource['kind'];
export const sheetSourceClass = byKind<SheetSourceKind>({
  typed: TypedSource,
  file: FileSource,
  address: AddressSource,
  comments: CommentsSource,
  poll: PollSource,
});

/** An image that cells name. */
export class SheetImage {
  @Text(300, 'file name, or address, as cells say it', { min: 1 }) name!: string;
  @Ref('asset', 'asset that holds the bytes') assetId!: string;
}

export class Sheet {
  @Id('identity') id!: string;
  @Text(80, 'name', { min: 1 }) name!: string;
  @Variant(sheetSourceClass, 'where its rows come from') source!: SheetSource;
  @TextList(MOST_SHEET_COLUMNS, 80, 'names of the columns, each once') columns!: string[];
  @TextList(MOST_SHEET_ROWS, MOST_LINE, 'rows: cells parted by tabs; in a cell \\t, \\n and \\\\ stand for a tab, a new line and \\')
  rows!: string[];
  @Text(80, 'column that tells rows apart; null for their order', { nullable: true }) key!: string | null;
  @ListOf(() => SheetImage, MOST_IMAGES, 'images that its cells name') images!: SheetImage[];
  @Whole(0, 8_640_000_000_000, 'when its rows came, milliseconds since 1970 by this machine’s clock; null for typed ones', {
    nullable: true,
  })
  readAt!: number | null;
}
