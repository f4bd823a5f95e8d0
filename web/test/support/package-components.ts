import Button from 'primevue/button';
import Checkbox from 'primevue/checkbox';
import DatePicker from 'primevue/datepicker';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import Menu from 'primevue/menu';
import MultiSelect from 'primevue/multiselect';
import ProgressBar from 'primevue/progressbar';
import RadioButton from 'primevue/radiobutton';
import Select from 'primevue/select';
import SelectButton from 'primevue/selectbutton';
import Textarea from 'primevue/textarea';
import type { Component } from 'vue';

const options = ['A', 'B'];
const PASSED = { label: { 'aria-describedby': 'said' }, root: { class: 'own' }, hooks: {} };
/** Every component of the package that is in use and shows something by itself, with what it shows first and then. */
export const DRAWN: [string, Component, Record<string, unknown>, Record<string, unknown>][] = [
  ['a button', Button, { label: 'Keep', icon: 'pi pi-check', text: true }, { label: 'Kept', disabled: true, loading: true }],
  ['a field', InputText, { modelValue: '3', size: 'small' }, { modelValue: '4', invalid: true }],
  ['a text', Textarea, { modelValue: 'a', autoResize: true }, { modelValue: 'b' }],
  ['a box', Checkbox, { modelValue: false, binary: true }, { modelValue: true }],
  ['a round box', RadioButton, { modelValue: 'A', value: 'A' }, { modelValue: 'B', disabled: true }],
  ['a choice', Select, { modelValue: 'A', options }, { modelValue: 'B' }],
  ['a choice with attributes', Select, { modelValue: 'A', options, pt: PASSED }, { modelValue: 'B' }],
  ['a choice with an attribute of the other kind', Select, { options, 'pt:label:title': 'x' }, { modelValue: 'B' }],
  ['a choice of many', MultiSelect, { modelValue: ['A'], options, display: 'chip' }, { modelValue: options }],
  ['buttons of which one', SelectButton, { modelValue: 'A', options }, { modelValue: 'B' }],
  ['a date', DatePicker, { modelValue: new Date(0), inline: true }, { modelValue: new Date(86_400_000) }],
  ['a bar', ProgressBar, { value: 3 }, { mode: 'indeterminate' }],
  ['a menu', Menu, { model: [{ label: 'A', icon: 'pi pi-plus' }] }, { model: [{ label: 'B' }, { separator: true }] }],
  ['a menu with attributes', Menu, { model: [{ label: 'A' }], pt: { list: { class: 'places' } } }, { model: [{ label: 'B' }] }],
  ['a dialog, which has some of its kind', Dialog, { visible: true, header: 'A', modal: true }, { header: 'B' }],
];
