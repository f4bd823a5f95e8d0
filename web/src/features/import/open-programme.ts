import type { Router } from 'vue-router';

/** The programme whose page is open: what is dropped there is added to it. */
export function openProgramme(router: Router): string | null {
  const { matched, params } = router.currentRoute.value;
  return matched.some(({ path }) => path === '/programmes/:id') ? String(params['id']) : null;
}
