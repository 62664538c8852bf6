/** The press that opens all transitions. */
import { ChevronUp } from 'lucide-react';
import { useCallback } from 'react';
import { Button } from '../parts/button';
import { later } from '../parts/later';
import { setDeskRoom, useDeskRoom } from './room-state';

const TransitionsSheet = later(() => import('./transitions-sheet').then((m) => m.TransitionsSheet));

export function TransitionMenu() {
  const open = useDeskRoom((s) => s.transitions);
  const close = useCallback(() => setDeskRoom({ transitions: false }), []);
  return (
    <>
      <Button
        className="px-1.5!"
        pressed={open}
        title="All transitions: settings, trying out, keeping"
        keyFor="desk.transitions"
        aria-label="All transitions"
        aria-expanded={open}
        onClick={() => setDeskRoom({ transitions: !open })}
      >
        <ChevronUp size={16} />
      </Button>
      {open && <TransitionsSheet onClose={close} />}
    </>
  );
}
