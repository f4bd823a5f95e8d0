import Select from 'primevue/select';

/** So long after the focus has gone it is gone for good, as in the package. */
const LEFT_AFTER_MS = 100;

/** What the package's list knows of itself. */
interface List {
  $el: HTMLElement;
  focused: boolean;
  focusedOptionIndex: number;
  searchValue: string;
  $emit: (name: 'blur', event: FocusEvent) => void;
}

/**
 * The package's list of choices. Its own forgets which entry is marked a moment after the focus has left it, even where the focus came back meanwhile
 * and keys have marked another: what was then taken by Enter was nothing.
 */
export const ChoiceList = {
  ...Select,
  methods: {
    ...(Select as unknown as { methods: object }).methods,
    onBlur(this: List, event: FocusEvent): void {
      setTimeout(() => {
        if (this.$el.contains(document.activeElement)) return;
        this.focused = false;
        this.focusedOptionIndex = -1;
        this.searchValue = '';
        this.$emit('blur', event);
      }, LEFT_AFTER_MS);
    },
  },
} as unknown as typeof Select;
