import { defineStore } from 'pinia';
import { ref } from 'vue';

/** Whether the command palette is open. */
export const useCommands = defineStore('commands', () => ({ open: ref(false) }));
