import { useEffect, useState } from 'react';
import { flushSync } from 'react-dom';

/** Whether the page is being printed: what is drawn in part on screen is drawn whole then. */
export function usePrinting(): boolean {
  const [isPrinting, setPrinting] = useState(false);
  useEffect(() => {
    // the browser takes the page as it stands when the event returns
    const begin = () => flushSync(() => setPrinting(true));
    const end = () => setPrinting(false);
    const media = window.matchMedia('print');
    const follow = ({ matches }: MediaQueryListEvent) => (matches ? begin() : end());
    window.addEventListener('beforeprint', begin);
    window.addEventListener('afterprint', end);
    media.addEventListener('change', follow);
    return () => {
      window.removeEventListener('beforeprint', begin);
      window.removeEventListener('afterprint', end);
      media.removeEventListener('change', follow);
    };
  }, []);
  return isPrinting;
}
