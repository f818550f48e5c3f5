import type { ClearingDto, ReconciliationDto } from '@wise-margin/contract';
import { type Minor, minor, type Reconciliation } from '@wise-margin/core';

import type { LinesById } from './loaded-account.ts';
import type { StoredClearing } from './statement-store.ts';

export function figuresDto(of: Reconciliation): NonNullable<ReconciliationDto['figures']> {
  const counted = (lines: readonly { readonly amount: Minor }[]) => ({
    count: lines.length,
    amount: minor(lines.reduce((sum, { amount }) => sum + amount, 0)),
  });
  return {
    bankBalance: of.bankBalance,
    depositsInTransit: counted(of.depositsInTransit),
    outstandingPayments: counted(of.outstandingPayments),
    adjustedBank: of.adjustedBank,
    ledgerBalance: of.ledgerBalance,
    unrecorded: counted(of.unrecorded),
    adjustedLedger: of.adjustedLedger,
    difference: of.difference,
  };
}

export function clearingDto({ bank, ledger }: LinesById, clearing: StoredClearing, broken: readonly number[]): ClearingDto {
  const banks = clearing.bank.flatMap((id) => bank.get(id) ?? []);
  const lines = clearing.ledger.flatMap((id) => ledger.get(id) ?? []);
  const dates = [...banks, ...lines].map(({ date }) => date).sort();
  return {
    id: clearing.id,
    kind: clearing.kind,
    date: dates.at(-1) ?? clearing.at.slice(0, 10),
    bank: banks.map(({ id, date, amount, text }) => ({ id, date, amount, text })),
    ledger: lines.map(({ id, entryId, entry, date, amount }) => ({ id, entryId, entry, date, amount })),
    amount: minor(banks.reduce((sum, { amount }) => sum + amount, 0)),
    person: clearing.person,
    difference: clearing.difference,
    reason: clearing.reason,
    explanation: clearing.explanation,
    isBroken: broken.includes(clearing.id),
  };
}
