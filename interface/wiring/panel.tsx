/** A panel of a show elsewhere, with the controllers that are wired in. */
import { WorkPanel } from '../panels/work-panel';
import { CONTROLS } from './controls';

export const PanelWindow = () => <WorkPanel controls={CONTROLS} />;
