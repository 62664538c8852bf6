/** Layouts of keys by name: which is in use, new ones, files. */
import { Download, Plus, Trash2, Upload } from 'lucide-react';
import { nanoid } from 'nanoid';
import { HandsError, layoutInUse, MOST_LAYOUTS, nameFor, readHands, writeHands } from '#core/control/hands-file';
import { FIRST_LAYOUT } from '#core/control/key-layout';
import { setHands, useHands } from '../client/hands';
import { say } from '../client/say';
import { Button } from '../parts/button';
import { FileButton } from '../parts/file-button';
import { saveFile } from '../parts/save-file';
import { useDraft } from '../parts/use-draft';

/** Which layout of keys is in use; new ones, names, files. */
export function KeyLayouts() {
  const hands = useHands();
  const now = layoutInUse(hands);
  const own = now.id !== FIRST_LAYOUT.id;
  const [name, setName] = useDraft(now.name);
  const rename = () => {
    const clean = name.trim();
    if (clean === '' || clean === now.name) setName(now.name);
    else setHands({ layouts: hands.layouts.map((l) => (l.id === now.id ? { ...l, name: clean } : l)) });
  };
  const add = () => {
    const id = nanoid(8);
    setHands({ layoutId: id, layouts: [...hands.layouts, { ...now, id, name: nameFor(hands) }] });
  };
  const read = async (file: File) => {
    try {
      const text = await file.text();
      setHands(readHands(text));
      say.good(`${file.name} is in: keys, controllers and what stands at hand.`);
    } catch (error) {
      say.trouble(`${file.name} cannot be read: ${error instanceof HandsError ? error.message : String(error)} Nothing was changed.`);
    }
  };
  return (
    <div className="flex flex-wrap items-center gap-2" role="group" aria-label="Layouts of keys">
      <select aria-label="Layout of keys" value={now.id} onChange={(e) => setHands({ layoutId: e.target.value })}>
        {hands.layouts.map((l) => (
          <option key={l.id} value={l.id}>
            {l.name}
          </option>
        ))}
      </select>
      {own && (
        <input
          aria-label="Name of the layout of keys"
          maxLength={60}
          className="w-40"
          value={name}
          onChange={(e) => setName(e.target.value)}
          onBlur={rename}
          onKeyDown={(e) => e.key === 'Enter' && rename()}
        />
      )}
      <Button onClick={add} unusable={hands.layouts.length >= MOST_LAYOUTS ? `There can be ${MOST_LAYOUTS} layouts of keys.` : null}>
        <Plus size={15} /> New, from this one
      </Button>
      {own && (
        <Button
          look="quiet"
          onClick={() => {
            const before = hands;
            setHands({ layoutId: FIRST_LAYOUT.id, layouts: hands.layouts.filter((l) => l.id !== now.id) });
            say.info(`${now.name} was removed.`, { action: { label: 'Undo', onClick: () => setHands(before) } });
          }}
        >
          <Trash2 size={14} /> Remove
        </Button>
      )}
      <span className="ml-auto flex gap-2">
        <Button
          onClick={() => saveFile(new File([writeHands(hands)], 'bivoca-keys.json', { type: 'application/json' }), 'bivoca-keys.json')}
        >
          <Download size={15} /> Export
        </Button>
        <FileButton label="File with layouts of keys" accept="application/json,.json" onFile={(file) => void read(file)}>
          <Upload size={15} /> Import…
        </FileButton>
      </span>
      <p className="w-full text-[13px] text-muted">
        {own
          ? `${now.changes.length} ${now.changes.length === 1 ? 'key differs' : 'keys differ'} from how it comes.`
          : 'The first change begins a layout of your own; this one stays.'}
      </p>
    </div>
  );
}
