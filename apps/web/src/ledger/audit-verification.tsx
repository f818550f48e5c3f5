import { useQuery } from '@tanstack/react-query';
import type { AuditVerificationDto } from '@wise-margin/contract';

import { getJson } from '../api/client.ts';

/** Whether the record is whole, looked at when it is asked for. */
export function AuditVerification() {
  const verified = useQuery({
    queryKey: ['audit-verification'],
    enabled: false,
    queryFn: ({ signal }) => getJson<AuditVerificationDto>('/audit/verification', signal),
  });
  const isWhole = verified.data?.faults.length === 0;
  return (
    <span className="ml-auto flex items-center gap-3">
      <span role="status" className={isWhole ? 'text-pine' : 'font-semibold text-brick'}>
        {verified.isError ? verified.error.message : verified.data ? resultWords(verified.data) : ''}
      </span>
      <button type="button" className="button" disabled={verified.isFetching} onClick={() => void verified.refetch()}>
        {verified.isFetching ? 'Verifying…' : 'Verify'}
      </button>
    </span>
  );
}

const resultWords = ({ events, faults }: AuditVerificationDto): string =>
  faults.length === 0 ? `${events.toLocaleString('en-US')} events verified, none altered` : faults.map(({ words }) => words).join(' ');
