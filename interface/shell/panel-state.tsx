/** Of a panel, in the bar: whose it is, whether what was pressed has been done, and whether one only looks. */
import { useStore } from 'zustand';
import { type RoomId } from '#core/control/rooms';
import { mayWork } from '#core/panels/pass';
import { type PanelState as State, type ReadStore } from '#engine/client/show-client';

export function PanelState({ panel, room }: { panel: ReadStore<State>; room: RoomId }) {
  const { pass, sent, upload } = useStore(panel);
  if (!pass) return null;
  return (
    <span className="flex shrink-0 items-center gap-2 text-[13px]" data-sent={sent}>
      <span className="max-w-32 truncate text-muted" title={`You work with the pass of ${pass.name}`}>
        {pass.name}
      </span>
      {!mayWork(pass, room) && <span className="rounded bg-raised px-1.5 py-0.5 font-semibold text-caution">look only</span>}
      {upload && (
        <span className="figures max-w-48 truncate text-straw">
          {Math.round(upload.share * 100)} % of {upload.name}
        </span>
      )}
      <span role="status" className={sent > 0 ? 'text-straw' : 'invisible'}>
        sent
      </span>
    </span>
  );
}
