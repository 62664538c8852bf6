/** Commands for recording and streaming. The engine follows what air asks for. */
import { findOutput } from '../screens/outputs';
import { type Show } from '../desk/show';
import { CommandError, defineCommand, NoArgs } from '../commands/command';
import { Num, OneOf, Text, Ref } from '../schema/fields';
import { type Codec, CODECS } from './document';

class RecordingArgs {
  @OneOf(CODECS, 'picture codec', { optional: true }) codec?: Codec;
  @Num(0.2, 100, 'picture bitrate, megabits a second', { optional: true }) megabits?: number;
  @Ref('output', 'output that is taken', { optional: true }) outputId?: string;
}
class StreamArgs {
  @Text(500, 'address; one on this server may begin with /', { optional: true, min: 1 }) url?: string;
  @Text(200, 'stream key', { optional: true }) key?: string;
  @Num(0.2, 50, 'picture bitrate, megabits a second', { optional: true }) megabits?: number;
  @Ref('output', 'output that is taken', { optional: true }) outputId?: string;
}

/** @throws CommandError when there is no such output. */
function checkOutput(show: Show, id: string | undefined): void {
  if (id !== undefined && !findOutput(show, id))
    throw new CommandError('unknown-output', `There is no output "${id}" in this show.`, 'outputId');
}

export const outputCommands = [
  defineCommand({
    type: 'output.startRecording',
    title: 'Start recording',
    says: 'Start recording',
    about: 'Records the programme to this browser’s storage. Returns the `id` of the recording.',
    args: NoArgs,
    run: ({ air }, _, { frame, newId }) => {
      if (air.recording) throw new CommandError('already-recording', 'The programme is being recorded already.');
      air.recording = { id: newId(), startFrame: frame };
      return { id: air.recording.id };
    },
  }),
  defineCommand({
    type: 'output.stopRecording',
    says: 'Stop recording',
    hold: () => true,
    title: 'Stop recording',
    about: 'Ends the recording; it is then in the list of recordings.',
    args: NoArgs,
    run: ({ air }) => {
      if (!air.recording) throw new CommandError('not-recording', 'Nothing is being recorded.');
      air.recording = null;
    },
  }),
  defineCommand({
    type: 'output.setRecording',
    title: 'Set up recording',
    about: 'Codec, bitrate and output of the next recording. Refused while one runs.',
    args: RecordingArgs,
    mergeKey: () => 'recording',
    run: ({ air, show }, change) => {
      checkOutput(show, change.outputId);
      if (air.recording) throw new CommandError('recording', 'Stop the recording before changing its settings.');
      Object.assign(show.output.recording, change);
    },
  }),
  defineCommand({
    type: 'output.startStream',
    title: 'Start streaming',
    says: 'Start the stream',
    about: 'Streams the programme to the destination that is set up.',
    args: NoArgs,
    run: ({ air }, _, { frame, newId }) => {
      if (air.stream) throw new CommandError('already-streaming', 'The programme is being streamed already.');
      air.stream = { id: newId(), startFrame: frame };
      return { id: air.stream.id };
    },
  }),
  defineCommand({
    type: 'output.stopStream',
    says: 'Stop the stream',
    hold: () => true,
    title: 'Stop streaming',
    about: 'Ends the stream after what is waiting has been sent.',
    args: NoArgs,
    run: ({ air }) => {
      if (!air.stream) throw new CommandError('not-streaming', 'Nothing is being streamed.');
      air.stream = null;
    },
  }),
  defineCommand({
    type: 'output.setStream',
    title: 'Set up the stream',
    about: 'Destination, bitrate and feed of the next stream. Refused while one runs.',
    args: StreamArgs,
    mergeKey: () => 'stream',
    run: ({ air, show }, change) => {
      checkOutput(show, change.outputId);
      if (air.stream) throw new CommandError('streaming', 'Stop the stream before changing its settings.');
      if (change.url !== undefined && !/^(\/(?!\/)|https?:\/\/)/.test(change.url)) {
        throw new CommandError('bad-address', 'The address must begin with http://, https:// or /.', 'url');
      }
      Object.assign(show.output.stream, change);
    },
  }),
];
