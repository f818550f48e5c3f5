import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type {
  ChangeFinding,
  CompanyMaterialityDto,
  FindingDto,
  FindingNote,
  FindingRecordDto,
  FindingsDto,
  LineDriverDto,
  MaterialityDto,
  MaterialityPreviewDto,
  SetMateriality,
  VarianceExplanationDto,
} from '@wise-margin/contract';
import type { Comparison, FindingSpan } from '@wise-margin/core';

import { getJson, queryText, sendDelete, sendJson } from '../api/client.ts';

/** A finding by what it is kept under, and the months in view. */
export type FindingPlace = {
  readonly view: string;
  readonly line: string;
  readonly comparison: Comparison;
  readonly month: string;
  readonly span: FindingSpan;
};
/** The statement that findings come from unless another is chosen. */
export const FIRST_VIEW = 'income';
export const placeOf = ({ line, month, spans }: FindingDto, comparison: Comparison, view = FIRST_VIEW): FindingPlace => ({
  view,
  line,
  comparison,
  month,
  span: spans[0]!.span,
});

/** A place as one text, to keep something under. */
export const placeKey = ({ view, line, comparison, month, span }: FindingPlace): string => [view, line, comparison, month, span].join(' ');

export const useFindings = (
  company: number,
  { asOf, comparison, view = FIRST_VIEW }: { readonly asOf: string; readonly comparison: Comparison; readonly view?: string },
) =>
  useQuery({
    queryKey: ['findings', company, asOf, comparison, view],
    queryFn: ({ signal }) => getJson<FindingsDto>(`/companies/${company}/findings${queryText({ asOf, comparison, view })}`, signal),
    placeholderData: (before) => before,
  });

/** @param by `line` asks for the layout of a subtotal by its lines alone */
export const useExplanation = (company: number, place: FindingPlace | null, by: 'all' | 'line' = 'all') =>
  useQuery({
    queryKey: ['explanation', company, place, by],
    enabled: place !== null,
    queryFn: ({ signal }) => {
      const { view, line, comparison, month, span } = place!;
      return getJson<VarianceExplanationDto>(
        `/companies/${company}/explanation${queryText({ view, line, comparison, span, asOf: month, by })}`,
        signal,
      );
    },
  });

export const useFindingRecord = (company: number, place: FindingPlace) =>
  useQuery({
    queryKey: ['finding-record', company, place],
    queryFn: ({ signal }) => getJson<FindingRecordDto>(`/companies/${company}/findings/record${queryText(place)}`, signal),
  });

/** Changes of a finding, and questions on it; everything that shows it is asked for again. */
export function useFindingChanges(company: number, place: FindingPlace) {
  const client = useQueryClient();
  const applyRecord = (record: FindingRecordDto): void => {
    client.setQueryData(['finding-record', company, place], record);
    // nobody waits for these to be read again; pages of a pack have the comments too
    void client.invalidateQueries({ queryKey: ['findings', company] });
    void client.invalidateQueries({ queryKey: ['pack-preview', company] });
  };
  const change = useMutation({
    mutationFn: (body: Omit<ChangeFinding, 'view' | keyof FindingPlace>) =>
      sendJson<FindingRecordDto>('PUT', `/companies/${company}/findings/record`, { ...place, ...body }),
    onSuccess: applyRecord,
  });
  const note = useMutation({
    mutationFn: (body: Pick<FindingNote, 'kind' | 'person' | 'text'>) =>
      sendJson<FindingRecordDto>('POST', `/companies/${company}/findings/notes`, { ...place, ...body }),
    onSuccess: applyRecord,
  });
  return { change, note };
}

/** Sets the statistic that a line's volumes are; explanations are asked for again. */
export function useSetLineDriver(company: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { readonly line: string; readonly driver: LineDriverDto | null }) =>
      sendJson<null>('PUT', `/companies/${company}/line-drivers`, body),
    onSuccess: () => client.invalidateQueries({ queryKey: ['explanation', company] }),
  });
}

const materialityKey = (company: number) => ['materiality', company];
export const useMateriality = (company: number) =>
  useQuery({
    queryKey: materialityKey(company),
    queryFn: ({ signal }) => getJson<CompanyMaterialityDto>(`/companies/${company}/materiality`, signal),
  });
export function useSetMateriality(company: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (limits: SetMateriality) => sendJson<CompanyMaterialityDto>('PUT', `/companies/${company}/materiality`, limits),
    onSuccess: async (limits) => {
      client.setQueryData(materialityKey(company), limits);
      // limits for all companies are those of others too
      await client.invalidateQueries({ queryKey: ['findings'] });
    },
  });
}
/** Takes a company's own limits back. */
export function useRemoveMateriality(company: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => sendDelete(`/companies/${company}/materiality`),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: materialityKey(company) });
      await client.invalidateQueries({ queryKey: ['findings'] });
    },
  });
}
/** How many findings some limits give; null limits ask nothing. */
export const useMaterialityPreview = (
  company: number,
  asked: { readonly asOf: string; readonly comparison: Comparison; readonly materiality: MaterialityDto | null },
) =>
  useQuery({
    queryKey: ['materiality-preview', company, asked],
    enabled: asked.materiality !== null,
    queryFn: () => sendJson<MaterialityPreviewDto>('POST', `/companies/${company}/materiality/preview`, asked),
    placeholderData: (before) => before,
  });
