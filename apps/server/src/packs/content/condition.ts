import type { StatementQuery } from '@wise-margin/contract';
import { comparisonColumns, type SectionCondition } from '@wise-margin/core';

import type { FindingList } from '../../findings/index.ts';
import type { StatementService } from '../../statements/index.ts';

type Sources = { readonly statements: StatementService; readonly findingList: FindingList };

/** Why a condition is not met as of a month, in words; empty when it is. */
export async function unmetCondition(
  { statements, findingList }: Sources,
  condition: SectionCondition,
  { companyId, query }: { readonly companyId: number; readonly query: StatementQuery },
): Promise<string> {
  switch (condition.kind) {
    case 'always':
      return '';
    case 'findings': {
      const { count } = await findingList.list(companyId, { view: 'income', asOf: query.asOf, comparison: 'budget' });
      return count > 0 ? '' : 'No variance exceeds its threshold';
    }
    case 'activity': {
      const columnSet = comparisonColumns('priorYear');
      const { dto: dtoOf } = await statements.evaluated(companyId, condition.view, { ...query, columnSet });
      const dto = dtoOf();
      const row = dto.lines.findIndex(({ key }) => key === condition.line);
      const name = dto.lines[row]?.name ?? condition.line;
      const cell = dto.cells[row]?.[dto.columns.findIndex(({ key }) => key === 'month.compared')];
      return cell && 'value' in cell && cell.value !== 0 ? '' : `${name} has no activity`;
    }
  }
}
