import { useEffect, type RefObject } from 'react';

/**
 * Keeps the focus near where it was: when the element that has it goes away, the innermost part of the page around it that
 * is still there takes it. It would fall back to the top of the page, and who works by keyboard would begin again.
 */
export function useSteadyFocus(page: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const root = page.current;
    if (!root) return undefined;
    let around: HTMLElement[] = [];
    const remember = ({ target }: FocusEvent) => {
      around = [];
      for (let node = target as HTMLElement | null; node && node !== document.body; node = node.parentElement)
        around.push(node);
    };
    const watch = new MutationObserver(() => {
      const isLost = document.activeElement === document.body && around[0]?.isConnected === false;
      if (!isLost) return;
      const near = around.find((node) => node.isConnected);
      if (!near) return;
      if (!near.hasAttribute('tabindex')) near.tabIndex = -1;
      near.focus({ preventScroll: true });
    });
    root.addEventListener('focusin', remember);
    watch.observe(root, { childList: true, subtree: true });
    return () => {
      root.removeEventListener('focusin', remember);
      watch.disconnect();
    };
  }, [page]);
}
