/** Replay at hand on the Desk: look back, grab, roll. */
import { Link } from 'react-router';
import { clipsOf } from '#core/replay/document';
import { clipsFrames } from '#core/replay/roll';
import { useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';

import { formatLength } from '#core/time/spoken';

/** Clips shown here; the room Replay has them all. */
const SHOWN = 30;

/** Replay for one who does everything alone: look back, grab, roll a clip to air. */
export function ReplayShelf() {
  const send = useSend();
  const { replay, recording, look, rolls, rate } = useShow(({ desk: { show, air } }) => ({
    replay: show.replay,
    recording: air.replay.recording !== null,
    look: air.replay.lookBack !== null,
    rolls: air.replay.takeBack !== null,
    rate: show.rate,
  }));
  const clips = clipsOf(replay, replay.reelId);
  const idle = recording ? null : 'The angles are not being recorded.';
  return (
    <section aria-label="Replay" className="flex flex-col gap-1.5 p-2">
      <div className="flex flex-wrap gap-1">
        {!recording && (
          <Button
            look="straw"
            unusable={replay.angles.length === 0 ? 'Choose the angles in the room Replay first.' : null}
            onClick={() => send('replay.start')}
          >
            Record angles
          </Button>
        )}
        <Button
          look="air"
          title="Show on air what was on air some seconds ago; again starts it again"
          keyFor="replay.lookBack"
          keyArgs={{ deck: 1 }}
          unusable={idle}
          onClick={() => send('replay.lookBack', { deck: 1 })}
        >
          {look ? 'Again' : `Look back ${replay.settings.lookBackSeconds} s`}
        </Button>
        {(look || rolls) && (
          <Button look="straw" title="Take back what was on air before" keyFor="replay.return" onClick={() => send('replay.backToLive')}>
            Return
          </Button>
        )}
        <Button
          title={`Make a clip of the last ${replay.settings.grab1} seconds`}
          keyFor="replay.grab"
          keyArgs={{ length: 1, deck: 1 }}
          unusable={idle}
          onClick={() => send('clip.grab', { deck: 1, length: 1 })}
        >
          Grab {replay.settings.grab1} s
        </Button>
      </div>
      <ul aria-label="Clips">
        {clips
          .slice(-SHOWN)
          .reverse()
          .map((clip) => (
            <li key={clip.id} className="flex items-center gap-2 border-b border-line py-0.5">
              <span className="figures w-8 text-right font-semibold">{clip.number}</span>
              <span className="min-w-0 flex-1 truncate">{clip.name}</span>
              <span className="figures text-[13px] text-muted">{formatLength(clipsFrames([clip], 0), rate)}</span>
              <Button
                look="air"
                className="px-1.5!"
                title="Deck 1 to air, play it, and back"
                onClick={() => send('roll.toAir', { deck: 1, clips: [clip.id] })}
              >
                To air
              </Button>
            </li>
          ))}
        {clips.length === 0 && <li className="text-muted">No clips in this reel yet.</li>}
      </ul>
      <Link to="../replay" relative="path" className="text-straw underline">
        All of it in Replay
      </Link>
    </section>
  );
}
