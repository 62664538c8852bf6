/** Four cameras around the pier at Skerry Point, drawn. */
import { workerScope } from '#engine/worker-scope';
import { runDrawnSources } from '#engine/capture/drawn-source';
import { createCameraPainter } from './camera-painter';

runDrawnSources(workerScope, (settings, size, rate) =>
  settings.kind === 'simulated' ? createCameraPainter(settings.camera, size, rate) : null,
);
