/** Recording and stream of old shows. */
import { type Migrations, objectOf } from '../schema/migration';

export const outputMigrations: Migrations = {
  // Only the programme was recorded and streamed.
  2: (show) => {
    const { recording, stream } = objectOf(show.output);
    return {
      ...show,
      output: { recording: { ...objectOf(recording), feed: 'programme' }, stream: { ...objectOf(stream), feed: 'programme' } },
    };
  },
  // What is taken was one of two words; now it is an output.
  5: (show) => {
    const taken = (settings: unknown) => {
      const { feed, ...rest } = objectOf(settings);
      return { ...rest, outputId: feed };
    };
    const { recording, stream } = objectOf(show.output);
    return { ...show, output: { recording: taken(recording), stream: taken(stream) } };
  },
};
