import { Theme, updatePreset } from '@primeuix/themes';
import datepicker from '@primeuix/themes/aura/datepicker';

/** The one component that a single screen uses brings its measures along, where there is a look to add them to: the board need not load them. */
if ((Theme.getPreset() as { semantic?: unknown } | undefined)?.semantic) updatePreset({ components: { datepicker } });
export { default as DatePicker } from 'primevue/datepicker';
