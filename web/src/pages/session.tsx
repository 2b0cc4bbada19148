import { createContext, useContext } from 'react';
import { Outlet } from 'react-router';
import { api, useAnswer, type Schemas } from '../api/client.js';
import { Frame } from '../frame/frame.js';
import { Answer } from '../kit/answer/states.js';
import { SignInPage } from './sign-in.js';

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
  const session = useAnswer<'SessionInfo'>(api('session'));
  return (
    <Answer of={session} what="your session">
      {(data) =>
        data.person ? (
          <SessionContext value={data}>
            <Outlet />
          </SessionContext>
        ) : (
          <Frame session={data}>
            <SignInPage />
          </Frame>
        )
      }
    </Answer>
  );
}
