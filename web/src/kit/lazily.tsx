import { lazy, type ComponentType, type LazyExoticComponent } from 'react';
import { ErrorMessage } from './layout/error-message.js';

/** The properties of what a module exports as a component. */
type PropsOf<T> = T extends (props: infer P) => unknown ? P : never;

/**
 * A component of a module that is fetched when it is first drawn; what draws it stands within a `Suspense`. Where the module
 * cannot be fetched the page stays, with what was typed on it, and says so in the component's place.
 */
export const lazily = <M, K extends keyof M>(
  load: () => Promise<M>,
  name: K,
): LazyExoticComponent<ComponentType<PropsOf<M[K]>>> =>
  lazy(() =>
    load().then(
      (module) => ({ default: module[name] as ComponentType<PropsOf<M[K]>> }),
      () => ({ default: NotFetched }),
    ),
  );

function NotFetched() {
  return (
    <ErrorMessage>
      This part of the page could not be fetched. Reload the page once the server answers.
    </ErrorMessage>
  );
}
