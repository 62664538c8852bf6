/** Pages of buttons in a window of their own, for a second display or a tablet: large, for touch. `?page=` is the first one. */
import { ChevronLeft } from 'lucide-react';
import { useEffect, useState } from 'react';
import { buttonWords, commandOf } from '#core/buttons/face';
import { isLit } from '#core/buttons/lit';
import { type ButtonPage, type PageButton } from '#core/buttons/document';
import { type Copy } from '#core/panels/copy';
import { asksForHold } from '#core/desk/registry';
import { type ShowCopy } from '#engine/panels/show-copy';
import { ButtonFace, buttonLook, gridOf, gridPlace } from '../automation/button-look';
import { usePress } from '../parts/use-press';
import { useCopy } from './use-copy';

/** How long a refusal is said, milliseconds. */
const SAYS_MS = 5000;

function TouchButton({
  copy,
  page,
  button,
  lit,
  onPress,
}: {
  copy: Copy;
  page: ButtonPage;
  button: PageButton;
  lit: boolean;
  onPress: () => void;
}) {
  const command = commandOf(button);
  const holds = command !== null && asksForHold(copy, command);
  const { holding, handlers } = usePress(holds, onPress);
  return (
    <button
      type="button"
      data-button={button.id}
      aria-pressed={lit}
      style={gridPlace(page, button.place)}
      className={`touch-none text-xl select-none ${buttonLook(lit, holding ? 'brightness-150' : 'active:brightness-125')}`}
      title={holds ? 'Hold it' : undefined}
      {...handlers}
    >
      <ButtonFace button={button} words={buttonWords(copy.show, button)} lit={lit} />
    </button>
  );
}

function Page({
  copy,
  line,
  frame,
  page,
  onOpen,
  onSay,
}: {
  copy: Copy;
  line: ShowCopy | null;
  frame: number;
  page: ButtonPage;
  onOpen: (id: string) => void;
  onSay: (words: string) => void;
}) {
  const press = (button: PageButton) => {
    const command = commandOf(button);
    if (command) void line?.send(command).then((done) => !done.ok && onSay(done.error.message));
    else if (button.act.kind === 'page' && button.act.pageId !== null) onOpen(button.act.pageId);
  };
  return (
    <div className="grid min-h-0 flex-1 gap-[1vmin]" style={gridOf(page)} role="group" aria-label={`Buttons of ${page.name}`}>
      {page.buttons.map((button) => (
        <TouchButton
          key={button.id}
          copy={copy}
          page={page}
          button={button}
          lit={isLit(copy, button, frame)}
          onPress={() => press(button)}
        />
      ))}
    </div>
  );
}

export function ButtonsWindow() {
  const { copy, trouble, frame, line } = useCopy();
  const [way, setWay] = useState<readonly string[]>(() => [new URLSearchParams(window.location.search).get('page') ?? '']);
  const [refusal, setRefusal] = useState('');
  const page = copy?.show.pages.find((p) => p.id === way.at(-1)) ?? copy?.show.pages[0];
  useEffect(() => {
    document.title = `${page?.name ?? 'Buttons'} · Bivoca`;
  }, [page?.name]);
  useEffect(() => {
    if (refusal === '') return undefined;
    const timer = setTimeout(() => setRefusal(''), SAYS_MS);
    return () => clearTimeout(timer);
  }, [refusal]);
  return (
    <main className="flex h-full flex-col gap-[1vmin] bg-deep p-[1vmin]">
      <header className="flex min-h-11 items-center gap-3">
        {way.length > 1 && (
          <button
            type="button"
            className="flex min-h-11 items-center rounded-[4px] border border-line bg-raised px-3 text-lg"
            onClick={() => setWay(way.slice(0, -1))}
          >
            <ChevronLeft size={20} /> Back
          </button>
        )}
        <h1 className="text-lg font-semibold">{page?.name ?? ''}</h1>
        <p role="status" className="ml-auto truncate text-caution">
          {trouble ?? refusal}
        </p>
      </header>
      {copy && page && <Page copy={copy} line={line} frame={frame} page={page} onOpen={(id) => setWay([...way, id])} onSay={setRefusal} />}
      {copy && !page && <p className="m-auto text-muted">The show has no pages of buttons yet: add one in the room Automation.</p>}
    </main>
  );
}
