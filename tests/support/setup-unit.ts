/** Unit tests have a database too; Dexie looks for it when it is first loaded. */
import 'fake-indexeddb/auto';
