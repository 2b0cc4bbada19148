import { createContext, Suspense, useContext } from 'react';
import { Outlet } from 'react-router';
import { api } from '../api/address.js';
import { useAnswer, type Schemas } from '../api/client.js';
import { Frame } from '../frame/frame.js';
import { Answer, Loading } from '../kit/answer/states.js';
import { lazily } from '../kit/lazily.js';

/** Fetched where nobody is signed in. */
const SignInPage = lazily(() => import('./sign-in.js'), 'SignInPage');

/** The session of somebody who is not signed in. */
export const NOBODY: Schemas['SessionInfo'] = {
  person: null,
  courses: [],
  administers: false,
  makesCourses: false,
};

const SessionContext = createContext(NOBODY);

export const useSession = (): Schemas['SessionInfo'] => useContext(SessionContext);

/** Asks who is signed in before any page is shown; nobody gets the sign-in page at every address. */
export function Session() {
  const session = useAnswer(api('/api/v1/session'));
  return (
    <Answer of={session} what="your session">
      {(data) =>
        data.person ? (
          <SessionContext value={data}>
            <Suspense fallback={<Loading what="the page" />}>
              <Outlet />
            </Suspense>
          </SessionContext>
        ) : (
          <Frame session={data}>
            <Suspense fallback={<Loading what="the page" />}>
              <SignInPage />
            </Suspense>
          </Frame>
        )
      }
    </Answer>
  );
}
