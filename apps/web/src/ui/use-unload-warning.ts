import { useEffect } from 'react';

/** Has the browser ask before the page is closed or loaded again, while something on it is not saved. */
export function useUnloadWarning(isUnsaved: boolean): void {
  useEffect(() => {
    if (!isUnsaved) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [isUnsaved]);
}
