/** Jog wheels and other HID controllers through WebHID, read by their own report descriptors. */
import { type ControlEvent } from '#core/control/control';
import { type HidField, HidReader } from '#core/control/hid-report';
import { type ControlDriver } from './driver';

interface Collection {
  inputReports?: { reportId?: number; items?: Partial<HidField & { isRange: boolean }>[] }[];
  children?: Collection[];
}

interface Device extends EventTarget {
  productName: string;
  opened: boolean;
  collections: Collection[];
  open(): Promise<void>;
  close(): Promise<void>;
}

interface Hid extends EventTarget {
  getDevices(): Promise<Device[]>;
  requestDevice(options: { filters: object[] }): Promise<Device[]>;
}

const hid = (): Hid | null => (navigator as Navigator & { hid?: Hid }).hid ?? null;

/** Readers of a device by report number. */
function readersOf(device: Device): Map<number, HidReader> {
  const fields = new Map<number, HidField[]>();
  const visit = (collection: Collection) => {
    for (const { reportId = 0, items = [] } of collection.inputReports ?? []) {
      const list = fields.get(reportId) ?? [];
      list.push(
        ...items.map((i) => ({
          usages: i.usages ?? [],
          usageMinimum: i.isRange ? i.usageMinimum : undefined,
          isAbsolute: i.isAbsolute ?? true,
          isConstant: i.isConstant ?? false,
          reportSize: i.reportSize ?? 8,
          reportCount: i.reportCount ?? 1,
          logicalMinimum: i.logicalMinimum ?? 0,
          logicalMaximum: i.logicalMaximum ?? 255,
        })),
      );
      fields.set(reportId, list);
    }
    collection.children?.forEach(visit);
  };
  device.collections.forEach(visit);
  return new Map([...fields].map(([id, list]) => [id, new HidReader(list)]));
}

let attachAll: (() => Promise<void>) | null = null;

export const hidDriver: ControlDriver = {
  id: 'hid',
  label: 'Jog wheels and other HID controllers',
  open(listen: (event: ControlEvent) => void, state) {
    const api = hid();
    if (!api) {
      state('this browser has no WebHID');
      return () => undefined;
    }
    const open = new Map<Device, (event: Event) => void>();
    const attach = async () => {
      for (const device of await api.getDevices()) {
        if (open.has(device)) continue;
        try {
          if (!device.opened) await device.open();
          const readers = readersOf(device);
          const report = (event: Event) => {
            const { reportId, data } = event as Event & { reportId: number; data: DataView };
            for (const e of readers.get(reportId)?.read(data) ?? []) listen(e);
          };
          device.addEventListener('inputreport', report);
          open.set(device, report);
        } catch {
          state(`${device.productName} cannot be opened: another program holds it`);
          return;
        }
      }
      state(open.size === 0 ? 'none is chosen yet' : [...open.keys()].map((d) => d.productName).join(', '));
    };
    const gone = (event: Event) => {
      open.delete((event as Event & { device: Device }).device);
      void attach();
    };
    const came = () => void attach();
    api.addEventListener('connect', came);
    api.addEventListener('disconnect', gone);
    attachAll = attach;
    void attach();
    return () => {
      api.removeEventListener('connect', came);
      api.removeEventListener('disconnect', gone);
      for (const [device, report] of open) {
        device.removeEventListener('inputreport', report);
        void device.close().catch(() => undefined);
      }
      attachAll = null;
    };
  },
  async choose() {
    await hid()?.requestDevice({ filters: [] });
    await attachAll?.();
  },
};
