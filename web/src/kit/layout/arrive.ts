import { NavigationType, useNavigationType } from 'react-router';

/** Takes the focus to an element when it appears: what an action led to is read next. */
export const arrive = (element: HTMLElement | null): void => element?.focus();

/** Takes the focus to the title of a page that was gone to, unless something within that page has it already. */
export function arriveAtPage(title: HTMLElement | null): void {
  const page = document.getElementById('page');
  const { activeElement: focused } = document;
  if (title && (focused === page || !page?.contains(focused))) title.focus();
}

/** Whether the page was gone to within the program: not loaded, nor come back to. */
export const useIsGoneTo = (): boolean => useNavigationType() !== NavigationType.Pop;
