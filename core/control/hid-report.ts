/**
 * Reads the input reports of any HID controller by its own report descriptor (USB HID 1.11, section 6.2.2): buttons of the
 * button page, dials and wheels that count, and axes of the generic desktop page.
 */
import { type ControlEvent } from './control';

/** One field of a report, as WebHID tells it. */
export interface HidField {
  usages: number[];
  usageMinimum?: number | undefined;
  isAbsolute: boolean;
  isConstant: boolean;
  reportSize: number;
  reportCount: number;
  logicalMinimum: number;
  logicalMaximum: number;
}

const BUTTON_PAGE = 0x09;
const DESKTOP_PAGE = 0x01;
const DIAL = 0x37;
const WHEEL = 0x38;
const FIRST_AXIS = 0x30;

/** Bits of a report, lowest first, as a signed number where the field has negative values. */
function bits(data: DataView, at: number, size: number, signed: boolean): number {
  let value = 0;
  for (let i = 0; i < size; i += 1) {
    const bit = at + i;
    if (bit >> 3 >= data.byteLength) break;
    value += ((data.getUint8(bit >> 3) >> (bit & 7)) & 1) * 2 ** i;
  }
  return signed && value >= 2 ** (size - 1) ? value - 2 ** size : value;
}

/** Decodes one device's reports; holds what was seen before, to tell presses and turns. */
export class HidReader {
  private readonly before = new Map<string, number>();

  constructor(private readonly fields: readonly HidField[]) {}

  /** What has changed with this report. */
  read(data: DataView): ControlEvent[] {
    const events: ControlEvent[] = [];
    let at = 0;
    for (const field of this.fields) {
      for (let i = 0; i < field.reportCount; i += 1) {
        const value = bits(data, at, field.reportSize, field.logicalMinimum < 0);
        at += field.reportSize;
        if (field.isConstant) continue;
        const usage = field.usages[i] ?? (field.usageMinimum === undefined ? field.usages.at(-1) : field.usageMinimum + i);
        if (usage !== undefined) events.push(...this.event(field, usage, value));
      }
    }
    return events;
  }

  private event(field: HidField, usage: number, value: number): ControlEvent[] {
    const [page, id] = [usage >> 16, usage & 0xffff];
    const key = String(usage);
    const before = this.before.get(key);
    this.before.set(key, value);
    if (page === BUTTON_PAGE)
      return before === value || (before === undefined && value === 0)
        ? []
        : [{ kind: 'button', id: `button-${id}`, pressed: value !== 0 }];
    if (page !== DESKTOP_PAGE) return [];
    if (id === DIAL || id === WHEEL) {
      const name = id === DIAL ? 'dial' : 'wheel';
      const clicks = field.isAbsolute ? this.turned(field, before, value) : value;
      return clicks === 0 ? [] : [{ kind: 'wheel', id: name, clicks }];
    }
    if (id < FIRST_AXIS || id > DIAL || before === value) return [];
    const span = field.logicalMaximum - field.logicalMinimum;
    return span <= 0 ? [] : [{ kind: 'lever', id: `axis-${id}`, value: ((value - field.logicalMinimum) / span) * 2 - 1 }];
  }

  /** Clicks of a counter that goes round. */
  private turned(field: HidField, before: number | undefined, value: number): number {
    if (before === undefined) return 0;
    const round = field.logicalMaximum - field.logicalMinimum + 1;
    const way = value - before;
    return Math.abs(way) > round / 2 ? way - Math.sign(way) * round : way;
  }
}
