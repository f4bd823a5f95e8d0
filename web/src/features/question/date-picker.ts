import { updatePreset } from '@primeuix/themes';
import datepicker from '@primeuix/themes/aura/datepicker';

/** The one component that a single screen uses brings its measures along: the board need not load them. */
updatePreset({ components: { datepicker } });
export { default as DatePicker } from 'primevue/datepicker';
