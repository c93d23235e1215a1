import { createRouter, createWebHistory } from 'vue-router';
import { isTool } from './workshop/tools.ts';
import { DEFAULT_PASS, isPass } from './desk/shared/passes.ts';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'library', component: () => import('./library/LibraryView.vue'), meta: { title: 'Library' } },
    { path: '/book', name: 'book', component: () => import('./book/BookView.vue'), meta: { title: 'Books' } },
    {
      path: '/workshop/:tool?',
      name: 'workshop',
      component: () => import('./workshop/WorkshopView.vue'),
      props: ({ params }) => ({ tool: isTool(params['tool']) ? params['tool'] : 'tuner' }),
      meta: { title: 'Workshop' },
    },
    {
      path: '/tune/:id/:pass?',
      name: 'desk',
      component: () => import('./desk/DeskView.vue'),
      props: ({ params }) => ({
        id: String(params['id']),
        pass: isPass(params['pass']) ? params['pass'] : DEFAULT_PASS,
      }),
    },
    {
      path: '/stand/:id',
      name: 'stand',
      component: () => import('./stand/StandView.vue'),
      props: ({ params }) => ({ id: String(params['id']) }),
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
});

router.afterEach(({ meta }) => {
  if (typeof meta['title'] === 'string') document.title = `${meta['title']} · Nokta`;
});
