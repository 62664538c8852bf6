/** First settings of recording and stream. */
import { PROGRAMME_OUTPUT } from '../screens/outputs';
import { type Raster } from '../show/raster';
import { type Delivery } from './document';

/** Settings that suit a picture size. */
export const createDelivery = ({ height }: Raster): Delivery => ({
  recording: { codec: 'h264', megabits: height > 720 ? 12 : height > 360 ? 6 : 2.5, outputId: PROGRAMME_OUTPUT },
  stream: { url: '/ingest/pier', key: 'kites', megabits: height > 720 ? 6 : height > 360 ? 4 : 2.5, outputId: PROGRAMME_OUTPUT },
});
