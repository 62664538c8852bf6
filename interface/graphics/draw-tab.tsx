/** Draw: the tree of elements, the stage with its time line, and the properties of what is chosen. */
import {
  BringToFront,
  Circle,
  Clock,
  Group,
  Hexagon,
  Image,
  Minus,
  MoveHorizontal,
  SendToBack,
  Square,
  Table2,
  Tv,
  Type,
  Ungroup,
} from 'lucide-react';
import { useState } from 'react';
import { trialPhase } from '#core/graphics/trial';
import { KIND_NAMES } from '#core/graphics/create';
import { type Graphic } from '#core/graphics/document';
import { type ElementKind } from '#core/graphics/element';
import { useSend, useShow } from '../client/show-client';
import { useDo } from '../control/do';
import { Button } from '../parts/button';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { Tabs } from '../parts/tabs';
import { ContentPanel } from './content-panel';
import { ElementTree } from './element-tree';
import { ElementFields } from './fields-panel';
import { GraphicPanel } from './graphic-panel';
import { AddGraphic } from './graphics-list';
import { LookPanel } from './look-panel';
import { MovesPanel } from './moves-panel';
import { PlacePanel } from './place-panel';
import { openGraphic, openGraphicById, setGraphicsRoom, useGraphicsRoom } from './room-state';
import { GraphicStage } from './stage';
import { TimeLine } from './time-line';

const TOOLS: readonly [ElementKind, typeof Type][] = [
  ['text', Type],
  ['rectangle', Square],
  ['ellipse', Circle],
  ['polygon', Hexagon],
  ['line', Minus],
  ['image', Image],
  ['clock', Clock],
  ['window', Tv],
  ['ticker', MoveHorizontal],
  ['table', Table2],
];

function Toolbar({ count }: { count: number }) {
  const perform = useDo();
  const box = useRoving<HTMLDivElement>();
  const { safe, grid, snap } = useGraphicsRoom();
  const none = count === 0 ? 'Choose an element first.' : null;
  return (
    <div ref={box} className="flex flex-wrap items-center gap-1 border-b border-line p-1">
      {TOOLS.map(([kind, Icon]) => (
        <Button
          key={kind}
          className="px-1.5!"
          aria-label={`Draw: ${KIND_NAMES[kind]}`}
          title={KIND_NAMES[kind]}
          keyFor="graphics.element"
          keyArgs={{ kind }}
          onClick={() => perform('graphics.element', { kind })}
        >
          <Icon size={16} />
        </Button>
      ))}
      <span className="w-2" />
      {(
        [
          ['graphics.group', 'Group', Group],
          ['graphics.ungroup', 'Take the group apart', Ungroup],
          ['graphics.front', 'To the front', BringToFront],
          ['graphics.back', 'To the back', SendToBack],
        ] as const
      ).map(([action, words, Icon]) => (
        <Button
          key={action}
          className="px-1.5!"
          aria-label={words}
          title={words}
          keyFor={action}
          unusable={none}
          onClick={() => perform(action)}
        >
          <Icon size={16} />
        </Button>
      ))}
      <span className="ml-auto" />
      <Button pressed={snap} title="Edges snap while they are dragged; Alt lets them go" onClick={() => setGraphicsRoom({ snap: !snap })}>
        Snap
      </Button>
      <Button pressed={grid} onClick={() => setGraphicsRoom({ grid: !grid })}>
        Grid
      </Button>
      <Button pressed={safe} title="Safe areas, 93 % and 90 %" onClick={() => setGraphicsRoom({ safe: !safe })}>
        Safe
      </Button>
    </div>
  );
}

const PANELS = ['content', 'place', 'look', 'moves', 'fields'] as const;
const PANEL_WORDS: Record<(typeof PANELS)[number], string> = {
  content: 'Content',
  place: 'Place',
  look: 'Look',
  moves: 'Moves',
  fields: 'Fields',
};

function Properties({ graphic }: { graphic: Graphic }) {
  const send = useSend();
  const chosen = useGraphicsRoom((s) => s.chosen);
  const [tab, setTab] = useState<(typeof PANELS)[number]>('content');
  const elements = chosen.flatMap((id) => graphic.elements.find((e) => e.id === id) ?? []);
  const first = elements[0];
  const set = (change: object) => send('element.set', { graphic: graphic.id, elements: elements.map((e) => e.id), ...change });
  const panels: Record<(typeof PANELS)[number], () => React.ReactNode> = {
    content: () => <ContentPanel key={first?.id} graphic={graphic} elements={elements} />,
    place: () => <PlacePanel graphic={graphic} elements={elements} set={set} />,
    look: () => <LookPanel graphic={graphic} elements={elements} set={set} />,
    moves: () => <MovesPanel graphic={graphic} elements={elements} set={set} />,
    fields: () => first && <ElementFields graphic={graphic} element={first} set={set} />,
  };
  return (
    <aside
      {...region('properties', 'Properties')}
      className="flex min-h-0 w-80 shrink-0 flex-col border-l border-line max-wide:w-64 max-beside:w-full"
    >
      {first ? (
        <>
          <p className="flex items-center gap-2 px-2 pt-1.5">
            <b className="min-w-0 flex-1 truncate">
              {elements.length > 1 ? `${elements.length} elements: a change touches all of them` : first.name}
            </b>
            {first.locked && <span className="text-xs text-caution">locked</span>}
          </p>
          <Tabs
            label="Properties"
            value={tab}
            onChange={(next) => setTab(next as typeof tab)}
            tabs={PANELS.map((value) => ({ value, label: PANEL_WORDS[value], content: value === tab ? panels[value]() : null }))}
          />
        </>
      ) : (
        <div className="min-h-0 flex-1 overflow-y-auto">
          <GraphicPanel graphic={graphic} />
        </div>
      )}
    </aside>
  );
}

export function DrawTab() {
  const { graphicId, trial, chosen } = useGraphicsRoom();
  const { graphic, list } = useShow(({ desk: { show } }) => ({ graphic: openGraphic(show, graphicId), list: show.graphics.list }));
  if (!graphic)
    return (
      <div className="p-3">
        <p className="mb-2 text-muted">No graphics yet. Take one from the gallery, or begin with an empty one.</p>
        <AddGraphic />
      </div>
    );
  return (
    <>
      <div className="flex min-h-0 w-56 shrink-0 flex-col border-r border-line max-wide:w-48 max-beside:h-64 max-beside:w-full">
        <div className="flex gap-1 p-1.5">
          <select
            aria-label="Graphic that is drawn"
            className="min-w-0 flex-1"
            value={graphic.id}
            onChange={(e) => openGraphicById(e.target.value)}
          >
            {list.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </div>
        <div className="px-1.5 pb-1.5">
          <AddGraphic />
        </div>
        <ElementTree graphic={graphic} />
      </div>
      <div className="flex min-h-0 min-w-0 flex-1 flex-col max-beside:flex-none" role="region" {...region('stage', 'The drawing')}>
        <Toolbar count={chosen.length} />
        <GraphicStage graphic={graphic} phase={trialPhase(graphic, trial)} frame={trial ?? 0} />
        <TimeLine graphic={graphic} />
      </div>
      <Properties graphic={graphic} />
    </>
  );
}
