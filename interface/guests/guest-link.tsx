/** The link of a guest: made, copied, shown as a code. */
import { type ReactNode, useState } from 'react';
import { useStore } from 'zustand';
import { type Guest } from '#core/guests/document';
import { causeOf } from '#core/schema/cause';
import { type GuestLinkRow } from '#engine/storage/db';
import { say } from '../client/say';
import { useShowClient } from '../client/show-client';
import { useBase } from '../client/use-base';
import { Dialog } from '../parts/dialog';
import { QrPicture } from '../parts/qr-picture';

/** The address by which a guest comes in: the secret stands behind #, which no browser sends to any server. */
const linkOf = (base: string, { showId, secret }: GuestLinkRow): string => `${base}/join/${showId}#guest=${secret}`;

export function useGuestLink(guest: Guest): {
  row: GuestLinkRow | undefined;
  make: () => Promise<void>;
  copy: () => Promise<void>;
  showCode: () => void;
  dialog: ReactNode;
} {
  const { guests } = useShowClient();
  const row = useStore(guests.store, (s) => s.links.find((l) => l.id === guest.id));
  const [open, setOpen] = useState(false);
  const { base } = useBase();
  const link = row ? linkOf(base, row) : '';
  return {
    row,
    make: () =>
      guests.invite(guest.id, null).then(
        () => undefined,
        (error: unknown) => void say.caution(causeOf(error), { id: 'guest' }),
      ),
    copy: () =>
      navigator.clipboard.writeText(link).then(
        () => void say.good(`The link of ${guest.name} is copied. It lets in whoever has it.`, { id: 'guest' }),
        () => setOpen(true),
      ),
    showCode: () => setOpen(true),
    dialog: row && (
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        title={`The way in for ${guest.name}`}
        about="It lets in whoever has it, one at a time."
      >
        <QrPicture text={link} />
        <p className="figures mt-2 text-[13px] break-all select-all">{link}</p>
      </Dialog>
    ),
  };
}
