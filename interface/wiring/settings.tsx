/** The room Settings, with the controllers that are wired in. */
import { SettingsRoom } from '../settings/settings-room';
import { CONTROLS } from './controls';

export const Settings = () => <SettingsRoom controls={CONTROLS} />;
