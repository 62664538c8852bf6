/** What is made of chosen lines of the log. */
import { createWhen } from '#core/automation/create';
import { type Macro, type StepAct } from '#core/automation/document';
import { type Device } from '#core/devices/document';
import { saidOf } from '#core/devices/said';
import { type LogLine } from '#core/log/act-log';
import { actOfLine } from '#core/log/to-acts';
import { type ShowClient } from '#engine/client/show-client';
import { say } from '../client/say';
import { useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { addSteps } from './edits';
import { setAutomationRoom } from './room-state';

const none = 'Choose lines of the log first; with Shift, all up to one.';

/** The steps of lines; says which of them cannot be any. */
function actsOf(client: ShowClient, lines: readonly LogLine[]): StepAct[] {
  const made = lines.map((line) => actOfLine(client.state.desk.show, line));
  const why = made.find((m) => 'why' in m);
  if (why && 'why' in why) say.caution(why.why);
  return made.flatMap((m) => ('act' in m ? [m.act] : []));
}

export function LinesToSteps({ lines, macro }: { lines: readonly LogLine[]; macro: Macro | undefined }) {
  const client = useShowClient();
  const add = () => {
    const acts = actsOf(client, lines);
    if (acts.length === 0) return;
    if (macro) return addSteps(client, macro, acts);
    const done = client.dispatch({ type: 'macro.add', args: { name: 'From the log', steps: acts.map((act) => ({ act })) } });
    if (!done.ok) return void say.caution(done.error.message);
    return setAutomationRoom({ page: 'macros', macroId: String(done.result.id), chosen: [] });
  };
  return (
    <Button
      look="straw"
      title={macro ? `As steps of ${macro.name}` : 'As steps of a new macro'}
      unusable={lines.length === 0 ? none : null}
      onClick={add}
    >
      Add as {lines.length === 1 ? 'a step' : lines.length > 1 ? `${lines.length} steps` : 'steps'}
    </Button>
  );
}

/** Messages of lines that went out or came in; they go to the device that they were of. */
export function LinesToMessages({ lines, device }: { lines: readonly LogLine[]; device: Device | undefined }) {
  const client = useShowClient();
  const show = useShow(({ desk }) => desk.show);
  const said = lines.filter((l) => l.kind === 'sent' || l.kind === 'heard');
  const heard = lines.find((l) => l.kind === 'heard');
  const make = () => {
    let last: string | null = null;
    for (const line of said) {
      const to = show.devices.find((d) => d.id === line.of) ?? device;
      if (!to) continue;
      const done = client.dispatch({
        type: 'message.add',
        args: { device: to.id, name: line.text.slice(0, 80) || 'Message', ...saidOf(to.settings.kind, line.text) },
      });
      if (!done.ok) return void say.caution(done.error.message);
      last = String(done.result.id);
      setAutomationRoom({ deviceId: to.id });
    }
    return setAutomationRoom({ messageId: last });
  };
  const trigger = () => {
    if (!heard) return;
    const when = createWhen('device-says', { deviceId: heard.of, value: heard.text.slice(0, 200) });
    const done = client.dispatch({ type: 'trigger.add', args: { when, then: { kind: 'command', type: 'picture.take', args: {} } } });
    if (!done.ok) return void say.caution(done.error.message);
    return setAutomationRoom({ page: 'triggers', triggerId: String(done.result.id) });
  };
  return (
    <>
      <Button
        title="A message of the device that says the same"
        unusable={said.length > 0 ? null : 'Choose lines that went out or came in.'}
        onClick={make}
      >
        Make {said.length > 1 ? `${said.length} messages` : 'a message'}
      </Button>
      <Button title="Something is done when it says this again" unusable={heard ? null : 'Choose a line that came in.'} onClick={trigger}>
        When it says this…
      </Button>
    </>
  );
}
