import type { Access } from '@gezeit/contract';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { api } from './api/client.js';

/** How this window came in: on the machine in the cell, or over the shop's network by a key. */
export const useAccess = defineStore('access', () => {
  const access = shallowRef<Access | null>(null);
  const isOverNetwork = computed(() => access.value?.from === 'network');
  const readsAlone = computed(() => access.value?.readOnly ?? false);
  const isPlain = computed(() => access.value?.plain ?? false);

  /** Asks once; where nothing answers, the window knows no more than before. */
  async function ask(): Promise<Access | null> {
    access.value ??= await api.access().catch(() => null);
    return access.value;
  }

  /** Gives the right to be here back, and forgets what this browser keeps for times without an answer. */
  async function leave(): Promise<void> {
    await api.leave();
    if ('caches' in window) for (const name of await caches.keys()) await caches.delete(name);
    location.assign('/door');
  }

  return { access, isOverNetwork, readsAlone, isPlain, ask, leave };
});
