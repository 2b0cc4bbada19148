import { createContext, useContext } from 'react';
import { Outlet } from 'react-router';
import { api } from '../api/address.js';
import { useAnswer, type Schemas } from '../api/client.js';
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
  const session = useAnswer(api('/api/v1/session'));
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
