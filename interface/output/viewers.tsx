/** Viewers of the programme with little delay, such as a foyer or a stage: a link that opens it in a browser, or in whatever speaks WHEP. */
import { Copy, Link2, QrCode } from 'lucide-react';
import { ALL_OF_THEM } from '#core/panels/way-name';
import { useShowClient } from '../client/show-client';
import { useWayLink } from '../parts/way-link';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';

export function Viewers() {
  const { panel } = useShowClient();
  const link = useWayLink('viewer', ALL_OF_THEM, 'viewers', 'Up to eight watch the programme with little delay.');
  if (panel) return null;
  return (
    <section aria-label="Viewers" className="mt-4 border-t border-line pt-4">
      <h2 className="text-lg font-semibold">Viewers</h2>
      <p className="text-muted">The programme with little delay, for a foyer or a stage, up to eight at once. They need no stream.</p>
      <div className="mt-2 flex flex-wrap gap-1">
        {link.row ? (
          <>
            <Button onClick={() => void link.copy()}>
              <Copy size={14} /> Link
            </Button>
            <Button onClick={link.showCode}>
              <QrCode size={14} /> Code
            </Button>
            <HoldButton look="air" title="Hold: whoever watches by it ends" onHeld={() => void link.close()}>
              Withdraw
            </HoldButton>
          </>
        ) : (
          <Button onClick={() => void link.make()}>
            <Link2 size={14} /> Make link
          </Button>
        )}
      </div>
      {link.dialog}
    </section>
  );
}
