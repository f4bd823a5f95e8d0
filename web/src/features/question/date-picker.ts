import { Theme } from '@primeuix/themes';
import datepicker from '@primeuix/themes/aura/datepicker';

/**
 * The one component that a single screen uses brings its measures along, where there is a look to add them to: the board need not load them. They
 * are put beside the others: the package's own way of adding to a look has every style of the page written anew.
 */
const look = Theme.getPreset() as { components?: Record<string, unknown> } | undefined;
if (look?.components) look.components['datepicker'] = datepicker;
export { default as DatePicker } from 'primevue/datepicker';
