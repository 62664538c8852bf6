/** Unit tests have a database too; Dexie looks for it when it is first loaded. Files share a worker: a clock that one has set leads no other astray. */
import 'fake-indexeddb/auto';
import { afterAll, vi } from 'vitest';

afterAll(() => void vi.useRealTimers());
