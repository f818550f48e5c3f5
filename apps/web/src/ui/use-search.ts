import { useNavigate, useSearchParams } from 'react-router';

/**
 * The choices in the address bar, and the way to change them. A change starts from the address as it
 * stands, not as it was last drawn, so that two changes in quick succession both hold; it is drawn at
 * once, so that a control never shows the old choice again in between.
 */
export function useSearch(): readonly [
  URLSearchParams,
  (change: (search: URLSearchParams) => void, options?: { readonly replace: boolean }) => void,
] {
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const set = (change: (search: URLSearchParams) => void, options?: { readonly replace: boolean }): void => {
    const next = new URLSearchParams(window.location.search);
    change(next);
    void navigate(`?${next.toString()}`, { flushSync: true, ...options });
  };
  return [search, set];
}
