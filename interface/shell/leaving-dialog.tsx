/** Asks whether a show that is on air to somebody is left. */
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { HoldButton } from '../parts/hold-button';

const listed = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** `watching`: what would end, in words; none when nobody sees the show any more. */
export function LeavingDialog({ watching, onStay, onLeave }: { watching: readonly string[]; onStay: () => void; onLeave: () => void }) {
  return (
    <Dialog
      open
      onClose={onStay}
      title="This show is on air"
      about={watching.length > 0 ? `Leaving it ends ${listed(watching)}.` : 'Nobody sees it any more: it can be left.'}
    >
      <div className="flex justify-end gap-2">
        <HoldButton look="air" title="Hold to leave the show" onHeld={onLeave}>
          Hold to leave
        </HoldButton>
        <Button look="straw" autoFocus onClick={onStay}>
          Stay
        </Button>
      </div>
    </Dialog>
  );
}
