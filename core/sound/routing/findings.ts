/** What is wrong, or odd, with the routing: each in words, with what would put it right. */
import { type Command } from '../../commands/command';
import { KeepLast } from '../../desk/keep-last';
import { type Show } from '../../desk/show';
import { channelsOf, takenBySeats } from '../channels';
import { PROGRAMME_BUS } from '../document';
import { hearsOf, reaches } from './hears';
import { type LoopReport, loopReport } from './loops';
import { matrixOf } from './matrix';
import { type SignalEdge, type SignalGraph, signalGraph } from './signal-graph';

export const FINDING_KINDS = ['loop', 'self', 'crew', 'twice', 'ganged', 'shared', 'unheard-bus', 'unheard-source'] as const;

export interface Finding {
  kind: (typeof FINDING_KINDS)[number];
  /** `trouble` will be heard; `note` is only odd. */
  tone: 'trouble' | 'note';
  /** What is the matter. */
  text: string;
  /** The path of the sound, in words; empty where there is none. */
  path: string;
  /** Crosspoints that are part of it, as `from bus`. */
  crosspoints: readonly string[];
  /** What would put it right, and how it is called; null when only hands in the room can. */
  fix: { text: string; command: Command } | null;
}

const closing = (ref: string): Command => {
  const [from, bus] = ref.split(' ');
  return { type: 'sound.setSend', args: { from, bus, on: false } };
};

const oneDecimal = (value: number) => Number(value.toFixed(1));

/** What taking an edge away is called. */
export function breakWords(show: Show, graph: SignalGraph, edge: SignalEdge): string {
  const [from, to] = [graph.nodes[edge.from]?.name, graph.nodes[edge.to]?.name];
  if (edge.kind === 'send') return `close ${from} in ${to}`;
  if (edge.kind === 'patch') return `unplug ${from} from ${to}`;
  const card = show.sound.cards.find((c) => c.mixes.some((m) => m.id === edge.ref));
  return `switch ${from} → ${to} off in the mixer of ${card?.deviceLabel ?? 'the sound card'}`;
}

function loopFindings(show: Show, graph: SignalGraph, { loops, breaks }: LoopReport): Finding[] {
  const shown = loops.slice(0, 24);
  return shown.map((loop): Finding => {
    const howls = loop.db >= 0;
    const own = breaks.filter(
      (e) => loop.keys.includes(graph.nodes[e.from]?.key ?? '') && loop.keys.includes(graph.nodes[e.to]?.key ?? ''),
    );
    const text = howls
      ? `Howls: ${oneDecimal(loop.db)} dB louder each time round`
      : `Echoes: ${oneDecimal(-loop.db)} dB weaker each time round, every ${Math.round(loop.delayMs)} ms`;
    const words = own.map((e) => breakWords(show, graph, e)).join(', ');
    return {
      kind: 'loop',
      tone: 'trouble',
      text,
      path: loop.words,
      crosspoints: loop.crosspoints,
      fix:
        own.length > 0
          ? { text: words.charAt(0).toUpperCase() + words.slice(1), command: { type: 'sound.breakLoops', args: { loop: loop.keys } } }
          : null,
    };
  });
}

/** Everybody whose own voice comes back to them, other than around a loop that is reported already. */
function selfFindings(show: Show, graph: SignalGraph): Finding[] {
  return show.sound.listeners.flatMap((listener) => {
    const ear = graph.index.get(`ear:${listener.id}`);
    if (ear === undefined || listener.ownIds.length === 0) return [];
    const own = new Set(listener.ownIds.map((id) => graph.index.get(`ch:${id}`)).filter((v) => v !== undefined));
    const { owners } = matrixOf(show);
    for (const [id, list] of owners) if (list.some((l) => l.id === listener.id)) own.add(graph.index.get(`ch:${id}`) as number);
    const skip = (e: SignalEdge) => e.kind === 'air' || e.kind === 'leak';
    const seen = reaches(graph, [ear], skip);
    if (![...own].some((v) => seen[v])) return [];
    const paths = hearsOf(graph, ear, true)
      .flatMap((h) => h.paths)
      .filter((p) => p.nodes.some((v) => own.has(v)));
    return paths.slice(0, 4).map((path): Finding => ({
      kind: 'self',
      tone: 'trouble',
      text: `${listener.kind === 'room' ? `${listener.name}: their own microphones come back` : `${listener.name} hears themself`}, ${path.delayMs < 1 ? 'at once' : `${Math.round(path.delayMs)} ms late`}`,
      path: path.words,
      crosspoints: path.crosspoints,
      fix: path.crosspoints[0] === undefined ? null : fixBySend(show, graph, path.crosspoints[0]),
    }));
  });
}

function fixBySend(show: Show, graph: SignalGraph, ref: string): Finding['fix'] {
  const edge = graph.edges.find((e) => e.kind === 'send' && e.ref === ref);
  if (!edge) return null;
  const words = breakWords(show, graph, edge);
  return { text: words.charAt(0).toUpperCase() + words.slice(1), command: closing(ref) };
}

function crewFindings(show: Show, graph: SignalGraph): Finding[] {
  const programme = graph.index.get(`bus:${PROGRAMME_BUS}`);
  if (programme === undefined) return [];
  return hearsOf(graph, programme, true).flatMap(({ paths }) =>
    paths.flatMap((path): Finding[] => {
      const mic = path.nodes.map((v) => graph.nodes[v]).find((node) => node?.kind === 'channel' && matrixOf(show).crew.has(node.id));
      const last = path.crosspoints.at(-1);
      return mic && last !== undefined
        ? [
            {
              kind: 'crew',
              tone: 'trouble',
              text: `The programme hears the crew: ${mic.name.replace('channel ', '')}`,
              path: path.words,
              crosspoints: path.crosspoints,
              fix: fixBySend(show, graph, last),
            },
          ]
        : [];
    }),
  );
}

/** Two ways of one sound to one ear, this far apart or less in level, are heard as comb or echo, dB. */
const TWICE_DB = 20;

function twiceFindings(show: Show, graph: SignalGraph): Finding[] {
  const found = new Map<string, Finding>();
  for (const listener of show.sound.listeners) {
    const ear = graph.index.get(`ear:${listener.id}`);
    if (ear === undefined) continue;
    for (const { name, paths } of hearsOf(graph, ear, true)) {
      const [first, ...others] = paths;
      // Paths that part in the air are the room's own echo; here it is about wires.
      const second = others.find((p) => (first as (typeof others)[0]).db - p.db < TWICE_DB);
      if (!first || !second) continue;
      const apart = Math.abs(first.delayMs - second.delayMs);
      const key = [first, second].map((p) => p.crosspoints.join()).join('|');
      const what =
        apart < 0.5
          ? 'at the same time: up to 6 dB too loud'
          : apart < 30
            ? `${oneDecimal(apart)} ms apart: it sounds hollow`
            : `${Math.round(apart)} ms apart: an echo`;
      const last = second.crosspoints[0];
      const known = found.get(key);
      if (known) known.text = known.text.replace(' hears', `, ${listener.name} hears`);
      else
        found.set(key, {
          kind: 'twice',
          tone: 'trouble',
          text: `${listener.name} hears ${name} twice, ${what}`,
          path: `${first.words}; and ${second.words}`,
          crosspoints: [...first.crosspoints, ...second.crosspoints],
          fix: last === undefined ? null : fixBySend(show, graph, last),
        });
    }
  }
  return [...found.values()].slice(0, 24);
}

function patchFindings(show: Show, graph: SignalGraph): Finding[] {
  const { patches, buses, cards } = show.sound;
  const found: Finding[] = [];
  for (const card of cards) {
    for (const mix of card.mixes) {
      if (!mix.on || mix.from !== 'output' || mix.to !== 'output') continue;
      const edge = graph.edges.find((e) => e.kind === 'card' && e.ref === mix.id);
      if (!edge) continue;
      found.push({
        kind: 'ganged',
        tone: 'note',
        text: `${card.deviceLabel} gangs its outputs: whatever plays on ${graph.nodes[edge.from]?.name} is heard on ${graph.nodes[edge.to]?.name} too`,
        path: `${graph.nodes[edge.from]?.name} → ${graph.nodes[edge.to]?.name}`,
        crosspoints: [],
        fix: {
          text: `Switch it off in the mixer of ${card.deviceLabel}`,
          command: { type: 'sound.setCardMix', args: { mix: mix.id, on: false } },
        },
      });
    }
  }
  const byPair = new Map<string, typeof patches>();
  for (const patch of patches) {
    const key = `${patch.to.deviceId} ${patch.to.pair}`;
    byPair.set(key, [...(byPair.get(key) ?? []), patch]);
  }
  for (const [, list] of byPair) {
    const names = [...new Set(list.map((p) => buses.find((b) => b.id === p.busId)?.name ?? ''))];
    if (names.length > 1)
      found.push({
        kind: 'shared',
        tone: 'note',
        text: `Outputs ${(list[0]?.to.pair ?? 1) * 2 - 1}–${(list[0]?.to.pair ?? 1) * 2} play ${names.join(' and ')} together`,
        path: '',
        crosspoints: [],
        fix: { text: `Unplug ${names.at(-1)}`, command: { type: 'sound.unplug', args: { patch: list.at(-1)?.id } } },
      });
  }
  return found;
}

function unheardFindings(show: Show, graph: SignalGraph): Finding[] {
  const ears = graph.nodes.flatMap((n, i) => (n.kind === 'listener' ? [i] : []));
  const seen = reaches(graph, ears);
  const note = (kind: 'unheard-bus' | 'unheard-source', text: string, fix: Finding['fix'] = null): Finding => ({
    kind,
    tone: 'note',
    text,
    path: '',
    crosspoints: [],
    fix,
  });
  const buses = show.sound.buses
    .filter((b) => !seen[graph.index.get(`bus:${b.id}`) as number] && !b.record)
    .map((b) => {
      const plugged = show.sound.patches.some((p) => p.busId === b.id);
      const why = b.muted ? 'it is muted' : plugged ? 'nobody listens at its outputs' : 'it is plugged into no output';
      return note(
        'unheard-bus',
        `Nobody hears bus ${b.name}: ${why}`,
        b.muted ? { text: 'Open it', command: { type: 'sound.setBus', args: { bus: b.id, muted: false } } } : null,
      );
    });
  const taken = takenBySeats(show);
  const alone = channelsOf(show).filter((c) => {
    const at = graph.index.get(`ch:${c.id}`) as number;
    return (
      !seen[at] &&
      !c.sound.muted &&
      c.feed?.kind !== 'tone' &&
      !taken.has(c.id) &&
      c.id !== show.sound.talkbackId &&
      (graph.into[at] as number[]).length > 0
    );
  });
  return [
    ...buses,
    ...alone.map((c) =>
      note('unheard-source', `${c.name} reaches nobody`, {
        text: 'Send it to the programme',
        command: { type: 'sound.setSend', args: { from: c.id, bus: PROGRAMME_BUS, on: true } },
      }),
    ),
  ];
}

export interface RoutingReport {
  graph: SignalGraph;
  loops: LoopReport;
  /** Troubles first. */
  findings: Finding[];
}

const kept = new KeepLast<RoutingReport>();

/** Everything that can be said about the routing of a show. Kept until sources, seats or sound change. */
export const routingReport = (show: Show): RoutingReport =>
  kept.get([show.sound, show.sources, show.seats, show.framings], () => makeReport(show));

function makeReport(show: Show): RoutingReport {
  const graph = signalGraph(show);
  const loops = loopReport(show, graph);
  const found = [
    ...loopFindings(show, graph, loops),
    ...crewFindings(show, graph),
    ...selfFindings(show, graph),
    ...twiceFindings(show, graph),
    ...patchFindings(show, graph),
    ...unheardFindings(show, graph),
  ];
  return { graph, loops, findings: [...found.filter((f) => f.tone === 'trouble'), ...found.filter((f) => f.tone === 'note')] };
}
