import { createBrowserRouter, Navigate } from 'react-router';
import { AdministrationPage } from './administration/administration-page.js';
import { DataPage } from './data/data-page.js';
import { DataSetPage } from './desks/data-set-page.js';
import { ColumnsPage } from './desks/look/columns-page.js';
import { CorrelationsPage } from './desks/look/correlations-page.js';
import { LookDesk } from './desks/look/look-desk.js';
import { TogetherPage } from './desks/look/together-page.js';
import { PrepareDesk } from './desks/prepare/prepare-desk.js';
import { ReleaseDesk } from './desks/release/release-desk.js';
import { FoldsDesk } from './desks/split/folds-desk.js';
import { PartsDesk } from './desks/split/parts-desk.js';
import { SplitDesk } from './desks/split/split-desk.js';
import { TryDesk } from './desks/try/try-desk.js';
import { Composer } from './exercises/composer.js';
import { CorrectionPage } from './exercises/correction-page.js';
import { ExercisesPage } from './exercises/exercises-page.js';
import { ExercisePage } from './exercises/exercise-page.js';
import { GradebookPage } from './gradebook/gradebook-page.js';
import { MarksPage } from './gradebook/marks-page.js';
import { JobsPage } from './jobs/jobs-page.js';
import { AdministratorLinkPage } from './pages/administrator-link-page.js';
import { Broken } from './pages/broken.js';
import { CoursePage } from './pages/course-page.js';
import { Home } from './pages/home.js';
import { InvitationPage } from './pages/invitation-page.js';
import { Lost } from './pages/lost.js';
import { PasswordPage } from './pages/password-page.js';
import { Session } from './pages/session.js';
import { PeoplePage } from './people/people-page.js';
import { TrailPage } from './people/trail-page.js';
import { ClassPage } from './submissions/class-page.js';
import { SubmissionsPage } from './submissions/submissions-page.js';
import { YouPage } from './you/you-page.js';

export const router = createBrowserRouter([
  { path: '/invitation/:secret', element: <InvitationPage />, errorElement: <Broken /> },
  { path: '/password/:secret', element: <PasswordPage />, errorElement: <Broken /> },
  {
    element: <Session />,
    errorElement: <Broken />,
    children: [
      { path: '/', element: <Home /> },
      { path: '/you', element: <YouPage /> },
      { path: '/administrator/:secret', element: <AdministratorLinkPage /> },
      { path: '/administration', element: <AdministrationPage /> },
      {
        path: '/courses/:course',
        element: <CoursePage />,
        children: [
          { index: true, element: <Navigate to="exercises" replace /> },
          { path: 'data', element: <DataPage /> },
          {
            path: 'data/:dataSet',
            element: <DataSetPage />,
            children: [
              { index: true, element: <Navigate to="look" replace /> },
              {
                path: 'look',
                element: <LookDesk />,
                children: [
                  { index: true, element: <ColumnsPage /> },
                  { path: 'together', element: <TogetherPage /> },
                  { path: 'correlations', element: <CorrelationsPage /> },
                ],
              },
              { path: 'prepare', element: <PrepareDesk /> },
              {
                path: 'split',
                element: <SplitDesk />,
                children: [
                  { index: true, element: <PartsDesk /> },
                  { path: 'folds', element: <FoldsDesk /> },
                ],
              },
              { path: 'try', element: <TryDesk /> },
              { path: 'release', element: <ReleaseDesk /> },
            ],
          },
          { path: 'exercises', element: <ExercisesPage /> },
          { path: 'exercises/new', element: <Composer /> },
          { path: 'exercises/:exercise', element: <ExercisePage /> },
          { path: 'exercises/:exercise/correction', element: <CorrectionPage /> },
          { path: 'submissions', element: <SubmissionsPage /> },
          { path: 'submissions/:exercise', element: <ClassPage /> },
          { path: 'submissions/:exercise/:submission', element: <ClassPage /> },
          { path: 'gradebook', element: <GradebookPage /> },
          { path: 'marks', element: <MarksPage /> },
          { path: 'jobs', element: <JobsPage /> },
          { path: 'people', element: <PeoplePage /> },
          { path: 'people/trail', element: <TrailPage /> },
        ],
      },
      { path: '*', element: <Lost /> },
    ],
  },
]);
