/** Pages of buttons: the list of them, the page as it is pressed or arranged, and what the chosen button does. */
import { ExternalLink, Plus, Trash2 } from 'lucide-react';
import { buttonWords, commandOf } from '#core/buttons/face';
import { isLit } from '#core/buttons/lit';
import { type ButtonPage, MOST_COLUMNS, MOST_ROWS, type PageButton } from '#core/buttons/document';
import { asksForHold } from '#core/desk/registry';
import { framesPerSecond } from '#core/time/rate';
import { say } from '../client/say';
import { useLive, useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Line, Num } from '../parts/fields';
import { Monitor } from '../parts/monitor';
import { region } from '../parts/region';
import { dragOf, useDrop } from '../parts/use-drop';
import { usePress } from '../parts/use-press';
import { ButtonForm } from './button-form';
import { ButtonFace, buttonLook, gridOf, gridPlace } from './button-look';
import { setAutomationRoom, useAutomationRoom } from './room-state';
import { COLUMNS } from '../parts/columns';

/** What a dragged button is. */
const BUTTON_TYPE = 'text/bivoca-button';

/** Opens pages of buttons in a window of their own, for a second display or a tablet. */
const openButtonsWindow = (showId: string, page: string): void =>
  window
    .open(`/buttons?${new URLSearchParams({ show: showId, page }).toString()}`, 'bivoca-buttons', 'popup,width=900,height=600')
    ?.focus();

function PageList({ page }: { page: ButtonPage | undefined }) {
  const client = useShowClient();
  const send = useSend();
  const pages = useShow(({ desk }) => desk.show.pages);
  const add = () => {
    const done = client.dispatch({ type: 'page.add' });
    if (done.ok) setAutomationRoom({ pageId: String(done.result.id), buttonId: null });
    else say.caution(done.error.message);
  };
  return (
    <>
      <div className="flex shrink-0 gap-1 border-b border-line p-1.5">
        <Button title="New page of buttons" keyFor="buttons.newPage" onClick={add}>
          <Plus size={15} /> Page
        </Button>
        <Button
          title="In a window of its own, for a second display or a tablet"
          unusable={page ? null : 'There is no page yet.'}
          onClick={() => page && openButtonsWindow(client.state.desk.show.id, page.id)}
        >
          <ExternalLink size={15} /> Window
        </Button>
        <IconButton
          label="Remove this page"
          title="Remove this page and its buttons"
          className="ml-auto"
          unusable={page ? null : 'There is no page yet.'}
          onClick={() => page && send('page.remove', { page: page.id })}
        >
          <Trash2 size={15} />
        </IconButton>
      </div>
      <ol className="min-h-0 flex-1 overflow-y-auto" aria-label="Pages of buttons">
        {pages.map((p, i) => (
          <li key={p.id} className={`border-b border-line ${p.id === page?.id ? 'bg-raised' : ''}`}>
            <button
              type="button"
              data-page={p.id}
              aria-pressed={p.id === page?.id}
              className="flex w-full items-baseline gap-2 px-2 py-1.5 text-left"
              onClick={() => setAutomationRoom({ pageId: p.id, buttonId: null })}
            >
              <span className="figures w-5 text-straw">{i + 1}</span>
              <span className="min-w-0 flex-1 truncate">{p.name}</span>
              <span className="text-[13px] text-muted">{p.buttons.length}</span>
            </button>
          </li>
        ))}
        {pages.length === 0 && (
          <li className="p-3 text-sm text-muted">
            No pages yet. A page of large buttons is worked by touch, in a window of its own or on a tablet; pads and controllers can press
            them too.
          </li>
        )}
      </ol>
      {page && (
        <div className="flex shrink-0 flex-col gap-2 border-t border-line p-2">
          <Line
            showLabel
            strong
            max={40}
            label="Name of the page"
            value={page.name}
            onSave={(name) => send('page.set', { page: page.id, name })}
          />
          <div className="grid grid-cols-2 gap-2">
            <Num
              label="Across"
              digits={0}
              min={1}
              max={MOST_COLUMNS}
              value={page.columns}
              onCommit={(columns) => send('page.set', { page: page.id, columns })}
            />
            <Num
              label="Down"
              digits={0}
              min={1}
              max={MOST_ROWS}
              value={page.rows}
              onCommit={(rows) => send('page.set', { page: page.id, rows })}
            />
          </div>
        </div>
      )}
    </>
  );
}

/** A place of the page: its button, or where one can be put. */
function Place({
  page,
  place,
  button,
  chosen,
  lit,
  pressing,
}: {
  page: ButtonPage;
  place: number;
  button: PageButton | undefined;
  chosen: boolean;
  lit: boolean;
  pressing: boolean;
}) {
  const client = useShowClient();
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const act = (b: PageButton) => {
    const command = commandOf(b);
    if (command) return void send(command.type, command.args);
    if (b.act.kind === 'page' && b.act.pageId !== null) setAutomationRoom({ pageId: b.act.pageId, buttonId: null });
    return undefined;
  };
  const { over, handlers } = useDrop(BUTTON_TYPE, ([id]) => send('button.move', { button: id, place }));
  const command = button ? commandOf(button) : null;
  const holds = pressing && command !== null && asksForHold(client.state.desk, command);
  const press = usePress(holds, () => button && (pressing ? act(button) : setAutomationRoom({ buttonId: button.id })));
  if (!button) {
    const add = () => {
      const done = client.dispatch({
        type: 'button.add',
        args: { page: page.id, place, act: { kind: 'command', type: 'picture.take', args: {} } },
      });
      if (done.ok) setAutomationRoom({ buttonId: String(done.result.id) });
      else say.caution(done.error.message);
    };
    return pressing ? (
      <span style={gridPlace(page, place)} />
    ) : (
      <button
        type="button"
        aria-label={`Add a button at ${place + 1}`}
        style={gridPlace(page, place)}
        className={`grid place-items-center rounded-[4px] border border-dashed border-line text-muted hover:text-text ${over ? 'border-straw' : ''}`}
        onClick={add}
        {...handlers}
      >
        <Plus size={16} />
      </button>
    );
  }
  const words = buttonWords(show, button);
  return (
    <button
      type="button"
      data-button={button.id}
      aria-pressed={pressing ? lit : chosen}
      aria-label={words}
      title={holds ? `${words}: hold it` : words}
      style={gridPlace(page, place)}
      className={buttonLook(
        lit,
        `${chosen && !pressing ? 'outline outline-2 outline-straw' : ''} ${over ? 'border-straw!' : ''} ${press.holding ? 'brightness-150' : ''}`,
      )}
      {...(!pressing && dragOf(BUTTON_TYPE, () => [button.id]))}
      {...press.handlers}
      {...handlers}
    >
      <ButtonFace
        button={button}
        words={words}
        lit={lit}
        picture={
          button.pictureId !== null && <Monitor picture={{ kind: 'picture', id: button.pictureId }} label="" className="h-full w-full" />
        }
      />
    </button>
  );
}

export function ButtonsPage() {
  const client = useShowClient();
  const desk = useShow(({ desk: d }) => d);
  // Conditions may come by time.
  useLive(({ frame, desk: d }) => Math.floor((frame * 4) / framesPerSecond(d.show.rate)));
  const { pageId, buttonId, pressing } = useAutomationRoom();
  const { pages } = desk.show;
  const page = pages.find((p) => p.id === pageId) ?? pages[0];
  const button = page?.buttons.find((b) => b.id === buttonId);
  const { frame } = client.state;
  return (
    <div className={`${COLUMNS} h-full grid-cols-[252px_minmax(0,1fr)_340px] max-wide:grid-cols-[208px_minmax(0,1fr)_280px]`}>
      <nav className="flex min-h-0 flex-col border-r border-line" {...region('pages', 'Pages')}>
        <PageList page={page} />
      </nav>
      <section className="flex min-h-0 min-w-0 flex-col gap-2 p-2" {...region('buttons', 'Buttons')}>
        {page ? (
          <>
            <header className="flex items-center gap-2">
              <h2 className="min-w-0 flex-1 truncate text-lg font-semibold">{page.name}</h2>
              <span role="group" aria-label="What a press does" className="flex gap-1">
                <Button pressed={!pressing} title="A press chooses the button" onClick={() => setAutomationRoom({ pressing: false })}>
                  Arrange
                </Button>
                <Button pressed={pressing} title="A press does what the button does" onClick={() => setAutomationRoom({ pressing: true })}>
                  Use
                </Button>
              </span>
            </header>
            <div className="grid min-h-64 flex-1 gap-2" style={gridOf(page)} role="group" aria-label={`Buttons of ${page.name}`}>
              {Array.from({ length: page.columns * page.rows }, (_, place) => {
                const b = page.buttons.find((x) => x.place === place);
                return (
                  <Place
                    key={b?.id ?? place}
                    page={page}
                    place={place}
                    button={b}
                    chosen={b !== undefined && b.id === buttonId}
                    lit={b !== undefined && isLit(desk, b, frame)}
                    pressing={pressing}
                  />
                );
              })}
            </div>
          </>
        ) : (
          <p className="p-6 text-muted">Press Page, and put buttons where they are wanted.</p>
        )}
      </section>
      <aside className="min-h-0 overflow-y-auto border-l border-line" {...region('settings', 'What it does')}>
        {page && button ? (
          <ButtonForm key={button.id} button={button} number={pages.indexOf(page) + 1} />
        ) : (
          <p className="p-3 text-sm text-muted">Choose a button: what it does is set here.</p>
        )}
      </aside>
    </div>
  );
}
