import { createRouter, createWebHistory } from 'vue-router';
import { STEP_NAMES, STEP_TITLES } from '../model/step-names.js';
import { STEP_VIEWS } from './steps.js';
import BoardView from '../features/board/BoardView.vue';

/** Every address of Gezeit; the tests walk this list. */
const routes = [
  { path: '/', name: 'programmes', component: BoardView, meta: { title: 'Programmes' } },
  {
    path: '/programmes/:id',
    component: () => import('../features/programme/ProgrammeView.vue'),
    redirect: (to: { params: Record<string, unknown> }) => ({ name: 'verdict', params: to.params as Record<string, string> }),
    children: STEP_NAMES.map((name) => ({ path: name, name, component: STEP_VIEWS[name], meta: { title: STEP_TITLES[name] } })),
  },
  { path: '/sort/:id', name: 'sort', component: () => import('../features/sort/SortView.vue'), meta: { title: 'Sort' } },
  { path: '/:rest(.*)*', name: 'not-found', component: () => import('./NotFound.vue'), meta: { title: 'Not found' } },
];

export const router = createRouter({
  history: createWebHistory(),
  routes,
  scrollBehavior: (to, from) => (to.path === from.path ? false : { top: 0 }),
});
router.afterEach((to) => {
  document.title = `${String(to.meta['title'] ?? '')} · Gezeit`;
});
