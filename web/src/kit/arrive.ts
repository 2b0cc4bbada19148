/** Takes the focus to an element when it appears: what an action led to is read next. */
export const arrive = (element: HTMLElement | null): void => element?.focus();
