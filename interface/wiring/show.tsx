/** The window that runs a show. */
import { OpenShow } from '../shell/open-show';

const engine = () => import('./show-engine').then((m) => m.ENGINE);

export const ShowWindow = () => <OpenShow engine={engine} />;
