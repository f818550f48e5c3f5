import { CloseButton } from '@headlessui/react';
import { Download } from 'lucide-react';

import { FloatingPanel } from '../ui/floating-panel.tsx';

const FORMATS = [
  ['pdf', 'PDF'],
  ['xlsx', 'Spreadsheet'],
  ['docx', 'Document'],
  ['csv', 'CSV'],
] as const;

/** A statement as files, each a link. */
export function StatementDownloads({ address }: { readonly address: (format: string) => string }) {
  return (
    <FloatingPanel label="Download" atRight>
      <ul className="flex flex-col gap-1">
        {FORMATS.map(([format, words]) => (
          <li key={format}>
            <CloseButton as="a" className="link flex items-center gap-1.5" href={address(format)} download>
              <Download size={14} aria-hidden="true" /> {words}
            </CloseButton>
          </li>
        ))}
      </ul>
    </FloatingPanel>
  );
}
