/** What a button of a page does, how it looks, and when it is lit. */
import { Trash2, X } from 'lucide-react';
import { createWhen } from '#core/automation/create';
import { type CommandAct } from '#core/automation/document';
import { canBeStep } from '#core/automation/record';
import { actWords, sentence } from '#core/automation/words';
import { type ButtonAct, type PageButton } from '#core/buttons/document';
import { entitiesOf } from '#core/desk/entities';
import { COMMANDS } from '#core/desk/registry';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Choice, ColourField, Line, Part, ThingChoice } from '../parts/fields';
import { CommandFields } from './command-fields';
import { ALL_STATES, WhenFields } from './when-fields';

type Does = 'macro' | 'command' | 'page';

const doesOf = (act: ButtonAct): Does => (act.kind === 'page' ? 'page' : act.type === 'macro.run' ? 'macro' : 'command');

const FIRST: Record<Does, ButtonAct> = {
  macro: { kind: 'command', type: 'macro.run', args: {} },
  command: { kind: 'command', type: 'picture.take', args: {} },
  page: { kind: 'page', pageId: null },
};

/** `number` is that of its page, from 1. */
export function ButtonForm({ button, number }: { button: PageButton; number: number }) {
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const { act, lit } = button;
  const set = (change: object) => send('button.set', { button: button.id, ...change });
  const commands = COMMANDS.filter((c) => canBeStep(c) && c.type !== 'macro.run');
  const does = doesOf(act);
  return (
    <div>
      <Part
        title="Button"
        action={
          <IconButton label="Remove this button" onClick={() => send('button.remove', { button: button.id })}>
            <Trash2 size={15} />
          </IconButton>
        }
      >
        <Line showLabel empty max={40} label="Name; without one, what it does" value={button.name} onSave={(name) => set({ name })} />
        <div className="flex items-end gap-2">
          <ColourField label="Colour" colour={button.colour} onChange={({ colour }) => colour !== undefined && set({ colour })} />
          <ThingChoice
            label="Picture on it"
            none="none"
            value={button.pictureId}
            pictures
            all={entitiesOf(show, 'picture')}
            onChange={(picture) => set({ picture })}
          />
        </div>
      </Part>
      <Part title="What it does">
        <Choice
          label="A press"
          value={does}
          all={[
            ['macro', 'runs a macro'],
            ['command', 'does a command'],
            ['page', 'opens a page'],
          ]}
          onChange={(next) => set({ act: FIRST[next] })}
        />
        {act.kind === 'page' ? (
          <ThingChoice label="Page" value={act.pageId} all={show.pages} onChange={(pageId) => set({ act: { kind: 'page', pageId } })} />
        ) : (
          <>
            {does === 'command' && (
              <Choice
                label="Command"
                value={act.type}
                all={commands.map((c) => [c.type, c.title] as const)}
                onChange={(type) => set({ act: { kind: 'command', type, args: {} } satisfies CommandAct })}
              />
            )}
            <CommandFields act={act} onChange={(next) => set({ act: next })} />
            <p className="text-sm text-muted">{sentence(actWords(show, act))}</p>
          </>
        )}
      </Part>
      <Part
        title="Lit"
        action={
          lit && (
            <IconButton label="Lit by what it does" onClick={() => set({ lit: null })}>
              <X size={14} />
            </IconButton>
          )
        }
      >
        {lit ? (
          <>
            <Choice
              label="It is lit"
              value={lit.so ? 'so' : 'not'}
              all={[
                ['so', 'while this is so'],
                ['not', 'while it is not'],
              ]}
              onChange={(so) => set({ lit: { ...lit, so: so === 'so' } })}
            />
            <WhenFields when={lit.is} label="Lit" events={ALL_STATES} onChange={(is) => set({ lit: { ...lit, is } })} />
          </>
        ) : (
          <>
            <p className="text-sm text-muted">By what it does: a macro that runs, a picture on air, a lane that is up.</p>
            <span>
              <Button onClick={() => set({ lit: { is: createWhen('on-air'), so: true } })}>Lit when…</Button>
            </span>
          </>
        )}
      </Part>
      <p className="p-2 text-[13px] text-muted">
        Keys, pads and MIDI press it too: in Settings, bind <em>Press button</em> of page {number}, place {button.place + 1}.
      </p>
    </div>
  );
}
