/** Loops and findings, in words, with what mends them. */
import { CircleCheck, Info, RefreshCcw, TriangleAlert } from 'lucide-react';
import { breakWords, type Finding, routingReport } from '#core/sound/routing/findings';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { setSoundRoom } from './room-state';

const ICONS = { trouble: TriangleAlert, note: Info };

function Line({ finding }: { finding: Finding }) {
  const send = useSend();
  const { kind, tone, text, path, crosspoints, fix } = finding;
  const Icon = kind === 'loop' ? RefreshCcw : ICONS[tone];
  const show = () => {
    const [from, bus] = crosspoints[0]?.split(' ') ?? [];
    if (from && bus) setSoundRoom({ view: 'matrix', cell: { from, bus } });
  };
  return (
    <li
      className={`flex flex-col gap-1 border-b border-line border-l-4 px-2 py-2 ${tone === 'trouble' ? 'border-l-air' : 'border-l-line'}`}
    >
      <p className="flex items-start gap-2">
        <Icon size={16} className={`mt-0.5 shrink-0 ${tone === 'trouble' ? 'text-air' : 'text-muted'}`} />
        <span>{text}</span>
      </p>
      {path && <p className="text-[13px] text-muted">{path}</p>}
      <div className="flex flex-wrap justify-end gap-1">
        {crosspoints.length > 0 && (
          <Button look="quiet" onClick={show}>
            See it in the matrix
          </Button>
        )}
        {fix && (
          <Button
            look={tone === 'trouble' ? 'straw' : 'plain'}
            className="max-w-full"
            title={fix.text}
            onClick={() => send(fix.command.type, fix.command.args)}
          >
            <span className="truncate">{fix.text}</span>
          </Button>
        )}
        {!fix && kind === 'loop' && (
          <span className="text-[13px] text-caution">Only in the room: turn a loudspeaker or microphone down, or use headphones.</span>
        )}
      </div>
    </li>
  );
}

/** Loops and everything else that is wrong with the routing, with what would put it right. */
export function RoutingPanel() {
  const host = useShowClient();
  const send = useSend();
  const { held } = useShow(({ desk: { show, air } }) => ({
    sound: show.sound,
    sources: show.sources,
    seats: show.seats,
    framings: show.framings,
    held: air.sound.held,
  }));
  const { show } = host.state.desk;
  const { graph, loops, findings } = routingReport(show);
  const busName = (id: string) => show.sound.buses.find((b) => b.id === id)?.name ?? id;
  return (
    <div>
      {Object.entries(held).map(([id, { db, hz }]) => (
        <div key={id} className="flex items-center gap-2 border-b border-line border-l-4 border-l-air bg-air/10 px-2 py-2">
          <span className="flex-1">
            {busName(id)} howled{hz > 0 ? ` at ${hz} Hz` : ''} and is held down by {db} dB. Break the loop, then release it.
          </span>
          <Button look="straw" onClick={() => send('sound.release', { bus: id })}>
            Release
          </Button>
        </div>
      ))}
      {loops.loops.length > 1 && loops.breaks.length > 0 && (
        <div className="flex flex-col gap-1 border-b-2 border-line p-2">
          <p>
            {loops.more ? 'More than ' : ''}
            {loops.loops.length} loops. {loops.breaks.length === 1 ? 'One change breaks' : `${loops.breaks.length} changes break`}{' '}
            {loops.stays ? 'all that can be broken here' : 'them all'}:
          </p>
          <ul className="list-disc pl-5 text-[13px] text-muted">
            {loops.breaks.slice(0, 6).map((e) => (
              <li key={`${e.kind} ${e.ref}`}>{breakWords(show, graph, e)}</li>
            ))}
            {loops.breaks.length > 6 && <li>and {loops.breaks.length - 6} more</li>}
          </ul>
          <Button look="straw" onClick={() => send('sound.breakLoops')}>
            Break them all
          </Button>
        </div>
      )}
      <ul aria-label="Findings">
        {findings.map((finding, i) => (
          <Line key={`${finding.kind} ${finding.path} ${i}`} finding={finding} />
        ))}
      </ul>
      {loops.loops.length > 24 && <p className="p-2 text-muted">and {loops.loops.length - 24} more loops</p>}
      {findings.every((f) => f.tone === 'note') && (
        <p className="flex items-center gap-2 p-3 text-next">
          <CircleCheck size={16} /> No loop, nobody hears themself, no crew microphone on air.
        </p>
      )}
    </div>
  );
}
