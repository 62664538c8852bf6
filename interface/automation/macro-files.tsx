/** Macros to and from files: what clashes and what is missing is asked one by one, before anything changes. */
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { type Macro } from '#core/automation/document';
import {
  type Decision,
  kindWords,
  type MacroFile,
  MacroFileError,
  macrosFor,
  missingOf,
  MOST_TEXT,
  readMacroFile,
  writeMacroFile,
} from '#core/automation/macro-file';
import { entitiesOf } from '#core/desk/entities';
import { bringCommands } from '#core/parts/coming';
import { causeOf } from '#core/schema/cause';
import { say } from '../client/say';
import { useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { FileButton } from '../parts/file-button';
import { Popover } from '../parts/popover';
import { fileBase, saveFile } from '../parts/save-file';
import { openMacroById } from './room-state';

interface Bringing {
  fileName: string;
  file: MacroFile;
}

const fileNameOf = (name: string): string => `${fileBase(name, 'macros')}.macros.json`;

function Asking({ bringing, onClose }: { bringing: Bringing; onClose: () => void }) {
  const client = useShowClient();
  const show = useShow(({ desk }) => desk.show);
  const { file, fileName } = bringing;
  const missing = missingOf(show, file);
  const sameAs = (macro: Macro) =>
    show.automation.macros.find((m) => m.id === macro.id) ?? show.automation.macros.find((m) => m.name === macro.name);
  const [decisions, setDecisions] = useState<ReadonlyMap<string, Decision>>(new Map());
  const [places, setPlaces] = useState<ReadonlyMap<string, string | null>>(new Map(missing.map((m) => [m.id, m.like])));
  const bring = () => {
    const macros = macrosFor(show, file, decisions, places, () => nanoid(12));
    if (macros.length === 0) return onClose();
    const done = client.dispatchAll(bringCommands({ things: macros.map((value) => ({ kind: 'macro', value: { ...value } })) }));
    if (!done.ok) return void say.caution(`${fileName}: ${done.error.message}`);
    say.good(`${macros.length} ${macros.length === 1 ? 'macro' : 'macros'} brought in.`);
    const [first] = macros;
    if (first) openMacroById(first.id);
    return onClose();
  };
  return (
    <Dialog
      open
      onClose={onClose}
      wide
      title={`Bring in ${fileName}`}
      about="Nothing changes before it is brought in; it is one step of undo."
    >
      <ul className="flex flex-col gap-1" aria-label="Macros of the file">
        {file.macros.map((macro) => {
          const same = sameAs(macro);
          const decision = decisions.get(macro.id)?.kind ?? 'new';
          return (
            <li key={macro.id} className="flex items-center gap-2">
              <span className="min-w-0 flex-1 truncate">
                <strong>{macro.name}</strong> <span className="text-[13px] text-muted">{macro.steps.length} steps</span>
                {same && <span className="text-[13px] text-caution"> · {same.name} is here already</span>}
              </span>
              <select
                aria-label={`What becomes of ${macro.name}`}
                value={decision}
                onChange={(e) => {
                  const kind = e.target.value;
                  setDecisions(
                    new Map(decisions).set(
                      macro.id,
                      kind === 'replace' && same ? { kind, id: same.id } : { kind: kind === 'leave' ? 'leave' : 'new' },
                    ),
                  );
                }}
              >
                <option value="new">{same ? 'as another beside it' : 'comes in'}</option>
                {same && <option value="replace">in its place</option>}
                <option value="leave">stays out</option>
              </select>
            </li>
          );
        })}
      </ul>
      {missing.length > 0 && (
        <section aria-label="What is missing here" className="flex min-h-0 flex-col gap-1 overflow-y-auto">
          <h3 className="text-sm font-semibold text-caution">What its steps name is not in this show</h3>
          {missing.map((m) => (
            <label key={m.id} className="flex items-center gap-2 text-sm">
              <span className="min-w-0 flex-1 truncate">
                {kindWords(m.to)} <strong>{m.name}</strong>
              </span>
              <select
                aria-label={`In the place of ${m.name}`}
                className="max-w-72"
                value={places.get(m.id) ?? ''}
                onChange={(e) => setPlaces(new Map(places).set(m.id, e.target.value || null))}
              >
                <option value="">leave its steps out</option>
                {entitiesOf(show, m.to)
                  .slice(0, 1000)
                  .map((e) => (
                    <option key={e.id} value={e.id}>
                      {e.name || e.id}
                    </option>
                  ))}
              </select>
            </label>
          ))}
        </section>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button look="straw" onClick={bring}>
          Bring it in
        </Button>
      </div>
    </Dialog>
  );
}

/** Saves macros, and brings others in. */
export function MacroFiles({ macro }: { macro: Macro | undefined }) {
  const client = useShowClient();
  const count = useShow(({ desk }) => desk.show.automation.macros.length);
  const [open, setOpen] = useState(false);
  const [bringing, setBringing] = useState<Bringing | null>(null);
  const save = (ids: readonly string[], name: string) => {
    const { show } = client.state.desk;
    saveFile(new File([writeMacroFile(show, ids)], fileNameOf(name), { type: 'application/json' }), fileNameOf(name));
    setOpen(false);
  };
  const read = async (file: File) => {
    setOpen(false);
    try {
      if (file.size > MOST_TEXT * 4) throw new MacroFileError('The file is larger than any file of macros is. Choose another.');
      setBringing({ fileName: file.name, file: readMacroFile(await file.text()) });
    } catch (error) {
      say.caution(`${file.name}: ${causeOf(error)}`);
    }
  };
  return (
    <>
      <Popover
        label="Macros as files"
        align="start"
        open={open}
        onOpenChange={setOpen}
        trigger={<Button title="Macros as files">File</Button>}
      >
        <div className="flex w-48 flex-col gap-1">
          <Button unusable={macro ? null : 'There is no macro yet.'} onClick={() => macro && save([macro.id], macro.name)}>
            Save this macro
          </Button>
          <Button
            unusable={count > 0 ? null : 'There are no macros yet.'}
            onClick={() =>
              save(
                client.state.desk.show.automation.macros.map((m) => m.id),
                `${client.state.desk.show.name} macros`,
              )
            }
          >
            Save all macros
          </Button>
          <FileButton label="File of macros" accept=".json,application/json" onFile={(file) => void read(file)}>
            Bring in…
          </FileButton>
        </div>
      </Popover>
      {bringing && <Asking key={bringing.fileName} bringing={bringing} onClose={() => setBringing(null)} />}
    </>
  );
}
