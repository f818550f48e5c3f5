import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { NewBudgetInput, NewBudgetPreviewDto } from '@wise-margin/contract';
import { useEffect, useState } from 'react';

import { sendJson } from '../../api/client.ts';

const PAUSE = 250;

/** A value once it has not changed for a moment. */
function useSettled<Value>(value: Value): Value {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), PAUSE);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}

/** What a new budget would come to; the last answer stays until the next one is there. Null while the fields cannot be read. */
export function useNewBudgetPreview(company: number, request: NewBudgetInput | null) {
  const { name: _name, note: _note, ...figures } = request ?? {};
  const body = useSettled(request === null ? '' : JSON.stringify(figures));
  return useQuery({
    queryKey: ['new-budget-preview', company, body],
    enabled: body !== '',
    placeholderData: keepPreviousData,
    queryFn: () => sendJson<NewBudgetPreviewDto>('POST', `/companies/${company}/budgets/preview`, JSON.parse(body) as unknown),
  });
}
