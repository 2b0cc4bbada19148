import type { ComponentType } from 'react';
import { createBrowserRouter, Navigate } from 'react-router';
import { lazily } from './kit/lazily.js';
import { Loading } from './kit/answer/states.js';
import { Broken } from './pages/broken.js';
import { CoursePage } from './pages/course-page.js';
import { NotFoundPage } from './pages/not-found-page.js';
import { Session } from './pages/session.js';

/** Fetched once somebody is signed in: at its address everybody else gets the page to sign in. */
const Home = lazily(() => import('./pages/home.js'), 'Home');

/** A page that is fetched when it is first opened: a student with a file to hand in loads no desk. */
const page =
  <K extends string>(load: () => Promise<Record<K, ComponentType>>, name: K) =>
  async () => ({ Component: (await load())[name] });

export const router = createBrowserRouter([
  {
    path: '/invitation/:secret',
    lazy: page(() => import('./pages/invitation-page.js'), 'InvitationPage'),
    errorElement: <Broken />,
  },
  {
    path: '/password/:secret',
    lazy: page(() => import('./pages/password-page.js'), 'PasswordPage'),
    errorElement: <Broken />,
  },
  {
    element: <Session />,
    errorElement: <Broken />,
    hydrateFallbackElement: <Loading what="the page" />,
    children: [
      { path: '/', element: <Home /> },
      { path: '/help', lazy: page(() => import('./help/guide-page.js'), 'GuidePage') },
      { path: '/help/api', lazy: page(() => import('./help/api-page.js'), 'ApiPage') },
      { path: '/help/:guide', lazy: page(() => import('./help/guide-page.js'), 'GuidePage') },
      { path: '/you', lazy: page(() => import('./you/you-page.js'), 'YouPage') },
      {
        path: '/administrator/:secret',
        lazy: page(() => import('./pages/administrator-link-page.js'), 'AdministratorLinkPage'),
      },
      {
        path: '/administration',
        lazy: page(() => import('./administration/administration-page.js'), 'AdministrationPage'),
      },
      {
        path: '/courses/:course',
        element: <CoursePage />,
        children: [
          { index: true, element: <Navigate to="exercises" replace /> },
          { path: 'data', lazy: page(() => import('./data/data-page.js'), 'DataPage') },
          {
            path: 'data/:dataSet',
            lazy: page(() => import('./desks/data-set-page.js'), 'DataSetPage'),
            children: [
              { index: true, element: <Navigate to="look" replace /> },
              {
                path: 'look',
                lazy: page(() => import('./desks/look/look-desk.js'), 'LookDesk'),
                children: [
                  { index: true, lazy: page(() => import('./desks/look/columns-page.js'), 'ColumnsPage') },
                  {
                    path: 'together',
                    lazy: page(() => import('./desks/look/together-page.js'), 'TogetherPage'),
                  },
                  {
                    path: 'correlations',
                    lazy: page(() => import('./desks/look/correlations-page.js'), 'CorrelationsPage'),
                  },
                ],
              },
              { path: 'prepare', lazy: page(() => import('./desks/prepare/prepare-desk.js'), 'PrepareDesk') },
              {
                path: 'split',
                lazy: page(() => import('./desks/split/split-desk.js'), 'SplitDesk'),
                children: [
                  { index: true, lazy: page(() => import('./desks/split/parts-desk.js'), 'PartsDesk') },
                  { path: 'folds', lazy: page(() => import('./desks/split/folds-desk.js'), 'FoldsDesk') },
                ],
              },
              { path: 'try', lazy: page(() => import('./desks/try/try-desk.js'), 'TryDesk') },
              { path: 'release', lazy: page(() => import('./desks/release/release-desk.js'), 'ReleaseDesk') },
            ],
          },
          { path: 'exercises', lazy: page(() => import('./exercises/exercises-page.js'), 'ExercisesPage') },
          { path: 'exercises/new', lazy: page(() => import('./exercises/compose/composer.js'), 'Composer') },
          {
            path: 'exercises/:exercise',
            lazy: page(() => import('./exercises/exercise-page.js'), 'ExercisePage'),
          },
          {
            path: 'exercises/:exercise/correction',
            lazy: page(() => import('./exercises/correct/correction-page.js'), 'CorrectionPage'),
          },
          {
            path: 'exercises/:exercise/submissions',
            lazy: page(() => import('./submissions/class-page.js'), 'ClassPage'),
          },
          {
            path: 'exercises/:exercise/explain',
            lazy: page(() => import('./submissions/explain-page.js'), 'ExplainPage'),
          },
          {
            path: 'exercises/:exercise/submissions/:submission',
            lazy: page(() => import('./submissions/class-page.js'), 'ClassPage'),
          },
          { path: 'gradebook', lazy: page(() => import('./gradebook/gradebook-page.js'), 'GradebookPage') },
          { path: 'marks', lazy: page(() => import('./gradebook/marks-page.js'), 'MarksPage') },
          { path: 'jobs', lazy: page(() => import('./jobs/jobs-page.js'), 'JobsPage') },
          { path: 'people', lazy: page(() => import('./people/people-page.js'), 'PeoplePage') },
          { path: 'people/trail', lazy: page(() => import('./people/trail-page.js'), 'TrailPage') },
        ],
      },
      { path: '*', element: <NotFoundPage /> },
    ],
  },
]);
