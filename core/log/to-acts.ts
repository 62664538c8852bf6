/** Lines of the log as steps of a macro. */
import { type StepAct } from '../automation/document';
import { canBeStep } from '../automation/record';
import { findCommand } from '../desk/registry';
import { type Show } from '../desk/show';
import { saidOf } from '../devices/said';
import { type LogLine, MOST_TEXT } from './act-log';

/** The step that does again what a line says; words where that cannot be. */
export function actOfLine(show: Pick<Show, 'devices'>, line: LogLine): { act: StepAct } | { why: string } {
  if (line.kind === 'heard') return { why: 'A device said this: a trigger can wait for it.' };
  if (line.text.length >= MOST_TEXT) return { why: 'The line was too long to be kept whole.' };
  if (line.kind === 'sent') {
    const device = show.devices.find((d) => d.id === line.of);
    if (!device) return { why: 'The device it went to is gone.' };
    const { method, path, text } = saidOf(device.settings.kind, line.text);
    return { act: { kind: 'command', type: 'device.say', args: { device: device.id, method, path, text } } };
  }
  const spec = findCommand(line.of);
  if (!spec || !canBeStep(spec)) return { why: `${spec?.title ?? line.of} cannot be a step.` };
  try {
    return { act: { kind: 'command', type: line.of, args: JSON.parse(line.text) as Record<string, unknown> } };
  } catch {
    return { why: 'The line was too long to be kept whole.' };
  }
}
