import type { PackPageDto, PageMark } from '@wise-margin/contract';
import { memo } from 'react';

const SANS = "'Source Sans 3 Variable', sans-serif";
const SERIF = "'Source Serif 4 Variable', serif";
type Font = Extract<PageMark, { readonly kind: 'text' }>['font'];
const faceOf = (font: Font) => ({
  fontFamily: font.startsWith('serif') ? SERIF : SANS,
  fontWeight: font.includes('Bold') ? 600 : 400,
  fontStyle: /Italic/.test(font) ? 'italic' : 'normal',
});

/** A page or a chart as it prints, its text as wide as on paper. */
export const PageDrawing = memo(function PageDrawing({
  page,
  logo,
  label,
  paper = 'bg-white',
}: {
  readonly page: Pick<PackPageDto, 'width' | 'height' | 'marks'>;
  readonly logo: string | null;
  readonly label: string;
  /** class of what it is drawn on */
  readonly paper?: string;
}) {
  return (
    <svg viewBox={`0 0 ${page.width} ${page.height}`} width="100%" className={`block ${paper}`} role="img" aria-label={label}>
      {page.marks.map((mark, at) => (
        <Mark key={at} mark={mark} logo={logo} />
      ))}
    </svg>
  );
});

function Mark({ mark, logo }: { readonly mark: PageMark; readonly logo: string | null }) {
  switch (mark.kind) {
    case 'text':
      return (
        <text
          x={mark.x}
          y={mark.y}
          fontSize={mark.size}
          fill={mark.color}
          textLength={mark.width || undefined}
          lengthAdjust="spacingAndGlyphs"
          style={{ ...faceOf(mark.font), fontVariantNumeric: 'tabular-nums lining-nums', whiteSpace: 'pre' }}
        >
          {mark.text}
        </text>
      );
    case 'line':
      return <line x1={mark.x1} y1={mark.y1} x2={mark.x2} y2={mark.y2} stroke={mark.color} strokeWidth={mark.weight} />;
    case 'rect':
      return (
        <rect
          x={mark.x}
          y={mark.y}
          width={mark.width}
          height={mark.height}
          fill={mark.fill ?? 'none'}
          stroke={mark.stroke ?? 'none'}
          strokeWidth={mark.weight}
        />
      );
    case 'picture':
      return logo === null ? null : (
        <image href={logo} x={mark.x} y={mark.y} width={mark.width} height={mark.height} preserveAspectRatio="xMinYMin meet" />
      );
  }
}
