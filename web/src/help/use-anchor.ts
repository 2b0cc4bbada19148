import { useEffect } from 'react';
import { useLocation } from 'react-router';

/** Goes to the place that the address names after `#`, once what it names is there. */
export function useAnchor(isThere: boolean): void {
  const { hash } = useLocation();
  useEffect(() => {
    if (isThere && hash !== '') document.getElementById(hash.slice(1))?.scrollIntoView();
  }, [isThere, hash]);
}
