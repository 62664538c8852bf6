/** New sheets. */
import { type AddressSource, type Sheet, type SheetSource } from './document';

export const createSheet = (id: string, name: string, source: SheetSource, change: Partial<Sheet> = {}): Sheet => ({
  id,
  name,
  source,
  columns: [],
  rows: [],
  key: null,
  images: [],
  readAt: null,
  ...change,
});

/** An address that is asked every few seconds. */
export const addressSource = (address: string, change: Partial<AddressSource> = {}): AddressSource => ({
  kind: 'address',
  address,
  everySeconds: 5,
  timeoutSeconds: 5,
  mostMegabytes: 5,
  allowed: [],
  ...change,
});
