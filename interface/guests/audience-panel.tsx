/** The audience: its page and link, comments and polls, and what is held back. */
import { Copy, Link2, QrCode, Users } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { ALL_OF_THEM } from '#core/panels/way-name';
import { feedPerson } from '#standins/audience/feed';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Check } from '../parts/fields';
import { HoldButton } from '../parts/hold-button';
import { NumberField } from '../parts/number-field';
import { PictureSelect } from '../parts/picture-select';
import { Comments } from './comments';
import { Tabs } from '../parts/tabs';
import { Polls } from './polls';
import { type Side, useGuestsRoom } from './room-state';
import { simulateAudience, useSimulatedAudience } from './simulated-audience';
import { useWayLink } from '../parts/way-link';

function Door() {
  const client = useShowClient();
  const send = useSend();
  const open = useShow(({ desk }) => desk.show.audience.open);
  const { people, passed } = useStore(client.audience.store);
  const simulated = useSimulatedAudience((s) => s.people > 0);
  const link = useWayLink('audience', ALL_OF_THEM, 'the audience', 'Everybody who has it may write and vote.');
  return (
    <div className="border-b border-line px-2 py-1.5">
      <div className="flex flex-wrap items-center gap-1">
        <h2 className="text-lg font-semibold">Audience</h2>
        <span className="figures flex items-center gap-1 text-muted" title="Pages that are open now">
          <Users size={14} aria-hidden /> {people} <span className="sr-only">pages open</span>
        </span>
        <span className="flex-1" />
        <Button pressed={open} title="Whether the audience may write" onClick={() => send('audience.set', { open: !open })}>
          {open ? 'Comments are taken' : 'Comments are closed'}
        </Button>
      </div>
      {!client.panel && (
        <div className="mt-1 flex flex-wrap gap-1">
          {link.row ? (
            <>
              <Button onClick={() => void link.copy()} title="Copy the link of their page">
                <Copy size={14} /> Link
              </Button>
              <Button onClick={link.showCode} title="The link as a code, to be photographed">
                <QrCode size={14} /> Code
              </Button>
              <HoldButton look="air" title="Hold: their pages end" onHeld={() => void link.close()}>
                Withdraw
              </HoldButton>
            </>
          ) : (
            <Button onClick={() => void link.make()} title="A page on which the audience writes and votes">
              <Link2 size={14} /> Make link
            </Button>
          )}
          <Button
            pressed={simulated}
            title="People who are made up write and vote"
            onClick={() => void simulateAudience(client, !simulated, feedPerson)}
          >
            Simulate
          </Button>
        </div>
      )}
      {passed > 0 && <p className="mt-1 text-[13px] text-caution">{passed} comments were passed over: more come than anybody can read.</p>}
      {link.dialog}
    </div>
  );
}

function Rules() {
  const send = useSend();
  const audience = useShow(({ desk }) => desk.show.audience);
  const lanes = useShow(({ desk }) => desk.show.lanes);
  const [words, setWords] = useState<string | null>(null);
  const text = words ?? audience.words.join(', ');
  return (
    <details className="border-t border-line">
      <summary className="cursor-pointer px-2 py-2 font-semibold">What is taken, and where it is shown</summary>
      <div className="flex flex-col gap-2 p-2 pt-0">
        <label className="flex flex-col gap-0.5">
          <span className="text-[13px] text-muted">Words that hold a comment back, parted by commas</span>
          <textarea
            rows={2}
            value={text}
            onChange={(e) => setWords(e.target.value)}
            onBlur={() => {
              if (words !== null)
                send('audience.set', {
                  words: words
                    .split(/[,\n]/u)
                    .map((w) => w.trim())
                    .filter((w) => w !== ''),
                });
              setWords(null);
            }}
          />
        </label>
        <div className="flex items-center gap-2">
          <NumberField
            className="w-14"
            label="Comments a minute of one sender"
            min={1}
            max={60}
            value={audience.perMinute}
            onCommit={(n) => send('audience.set', { perMinute: Math.round(n) })}
          />
          <span className="text-[13px] text-muted">comments a minute of one sender</span>
        </div>
        <label className="flex items-center gap-2 text-[13px] text-muted">
          Graphic
          <PictureSelect
            className="min-w-0 flex-1"
            label="Graphic that comments are shown in"
            kinds={['graphic']}
            none="none"
            value={audience.graphicId}
            onChange={(graphic) => send('audience.set', { graphic })}
          />
        </label>
        <label className="flex items-center gap-2 text-[13px] text-muted">
          Lane
          <select
            aria-label="Lane that comments are shown in"
            className="min-w-0 flex-1"
            value={audience.laneId ?? ''}
            onChange={(e) => send('audience.set', { lane: e.target.value || null })}
          >
            <option value="">none</option>
            {lanes.map((l) => (
              <option key={l.id} value={l.id}>
                {l.name}
              </option>
            ))}
          </select>
        </label>
        {audience.banned.length > 0 && (
          <div className="flex flex-col gap-0.5">
            <span className="text-[13px] text-muted">Banned: {audience.banned.length}</span>
            {audience.banned.map((from) => (
              <Check key={from} on label={from.slice(0, 12)} onChange={() => send('comment.ban', { from, on: false })} />
            ))}
          </div>
        )}
      </div>
    </details>
  );
}

export function AudiencePanel() {
  const side = useGuestsRoom((s) => s.side);
  const open = useShow(({ desk }) => desk.air.audience.poll?.open === true);
  return (
    <>
      <Door />
      <Tabs
        label="What the audience does"
        value={side}
        onChange={(value) => useGuestsRoom.setState({ side: value as Side })}
        tabs={[
          {
            value: 'comments',
            label: 'Comments',
            content: (
              <>
                <Comments />
                <Rules />
              </>
            ),
          },
          { value: 'polls', label: open ? 'Polls · open' : 'Polls', content: <Polls /> },
        ]}
      />
    </>
  );
}
