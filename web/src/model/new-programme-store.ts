import { defineStore } from 'pinia';
import { ref } from 'vue';

/** Whether a new programme is being begun; opened from the board and the command palette. */
export const useNewProgramme = defineStore('new-programme', () => ({ open: ref(false) }));
