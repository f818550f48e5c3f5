import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { EntryEffectDto } from '@wise-margin/contract';
import { useEffect, useState } from 'react';

import { sendJson } from '../api/client.ts';

const WAIT_MILLISECONDS = 300;

/** What a change would do, asked for when the person stops typing. @param request null when there is nothing to ask */
export function useEffectPreview(path: string, request: unknown) {
  const text = request === null ? null : JSON.stringify(request);
  const [asked, setAsked] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(text), WAIT_MILLISECONDS);
    return () => clearTimeout(timer);
  }, [text]);
  return useQuery({
    queryKey: ['effect', path, asked],
    enabled: asked !== null,
    retry: false,
    queryFn: () => sendJson<EntryEffectDto>('POST', path, JSON.parse(asked!)),
    placeholderData: keepPreviousData,
  });
}
