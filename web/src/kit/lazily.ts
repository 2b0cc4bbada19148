import { lazy, type ComponentType, type LazyExoticComponent } from 'react';

/** The properties of what a module exports as a component. */
type PropsOf<T> = T extends (props: infer P) => unknown ? P : never;

/** A component of a module that is fetched when it is first drawn; what draws it stands within a `Suspense`. */
export const lazily = <M, K extends keyof M>(
  load: () => Promise<M>,
  name: K,
): LazyExoticComponent<ComponentType<PropsOf<M[K]>>> =>
  lazy(async () => ({ default: (await load())[name] as ComponentType<PropsOf<M[K]>> }));
