/** A way in by a link: made, copied, shown as a code. */
import { type ReactNode, useState } from 'react';
import { useStore } from 'zustand';
import { type WayKind } from '#core/panels/way-in';
import { causeOf } from '#core/schema/cause';
import { type WayRow } from '#engine/storage/db';
import { say } from '../client/say';
import { useShowClient } from '../client/show-client';
import { useBase } from '../client/use-base';
import { Dialog } from './dialog';
import { later } from './later';

const LinkCode = later(() => import('./link-code').then((m) => m.LinkCode));

/** The address behind which somebody comes in: the secret stands behind #, which no browser sends to any server. */
const ADDRESS: Readonly<Record<WayKind, (row: WayRow) => string>> = {
  guest: ({ showId, secret }) => `/join/${showId}#guest=${secret}`,
  audience: ({ showId, secret }) => `/audience/${showId}#in=${secret}`,
  viewer: ({ showId, secret }) => `/watch?show=${showId}#in=${secret}`,
  encoder: ({ showId, id }) => `/api/whip/${showId}/${id}`,
};

export interface WayLink {
  row: WayRow | undefined;
  link: string;
  make: () => Promise<void>;
  close: () => Promise<void>;
  copy: () => Promise<void>;
  showCode: () => void;
  dialog: ReactNode;
}

/** The way in for somebody; `name` is said of it, `about` says what it lets one do. */
export function useWayLink(kind: WayKind, id: string, name: string, about: string): WayLink {
  const { ways } = useShowClient();
  const row = useStore(ways.store, (s) => s.ways.find((w) => w.kind === kind && w.id === id));
  const [open, setOpen] = useState(false);
  const { base } = useBase();
  const link = row ? `${base}${ADDRESS[kind](row)}` : '';
  return {
    row,
    link,
    make: () =>
      ways.make(kind, id, null).then(
        () => undefined,
        (error: unknown) => void say.caution(causeOf(error), { id: kind }),
      ),
    close: () => ways.withdraw(kind, id),
    copy: () =>
      navigator.clipboard.writeText(link).then(
        () => void say.good(`The link for ${name} is copied. It lets in whoever has it.`, { id: kind }),
        () => setOpen(true),
      ),
    showCode: () => setOpen(true),
    dialog: row && (
      <Dialog open={open} onClose={() => setOpen(false)} title={`The way in for ${name}`} about={about}>
        <LinkCode link={link} />
      </Dialog>
    ),
  };
}
