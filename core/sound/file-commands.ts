/** Reading a routing in, as a command: one step of undo, and guarded against loops like any other change. */
import { current, isDraft } from 'immer';
import { CommandError, defineCommand } from '../commands/command';
import { DeviceId, ListOf, Nested, Text } from '../schema/fields';
import { Anyway, guardLoops } from './edit';
import { remove } from '../desk/remove';
import { importRouting, RoutingError, RoutingFile } from './routing-file';
import { soundProblems } from './validate';

class DeviceField {
  @DeviceId('device identity') deviceId!: string;
  @Text(256, 'device label') label!: string;
}
class ImportArgs {
  @Nested(() => RoutingFile, 'the routing, by names') routing!: RoutingFile;
  @ListOf(() => DeviceField, 200, 'sound devices of this machine') devices!: DeviceField[];
  @Anyway() anyway?: boolean;
}

export const soundFileCommands = [
  defineCommand({
    type: 'sound.importRouting',
    title: 'Read a routing in',
    about:
      'Replaces sends, listeners and patches by those of a routing file, matched by name; makes buses that are missing. Refused with every unknown name when it does not fit.',
    args: ImportArgs,
    run: (desk, { routing, devices, anyway }, { newId }) => {
      const show = isDraft(desk) ? current(desk).show : desk.show;
      try {
        const sound = importRouting(show, routing, devices, newId);
        const [fault] = soundProblems({ ...show, sound });
        if (fault)
          throw new CommandError(
            'bad-routing',
            `This routing does not fit: ${fault.path} ${fault.message}. Nothing was changed.`,
            'routing',
          );
        // Whoever is not in the file hears nothing any more: what named them, such as a guest, does so no longer.
        const stay = new Set(sound.listeners.map((l) => l.id));
        for (const { id } of show.sound.listeners) if (!stay.has(id)) remove(desk, 'listener', id);
        desk.show.sound = sound;
        const air = desk.air.sound;
        if (air.talkback) air.talkback = null;
      } catch (error) {
        if (error instanceof RoutingError) throw new CommandError('bad-routing', error.message, 'routing');
        throw error;
      }
      guardLoops(desk, anyway);
    },
  }),
];
