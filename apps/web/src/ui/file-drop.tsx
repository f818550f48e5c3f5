import { type DragEvent, type ReactNode, useState } from 'react';

/** A frame that hands a file dropped anywhere on it to the file field inside, as if it had been chosen there. */
export function FileDrop({ children, className = '' }: { readonly children: ReactNode; readonly className?: string }) {
  const [isOver, setOver] = useState(false);
  const drop = (event: DragEvent<HTMLDivElement>): void => {
    event.preventDefault();
    setOver(false);
    const field = event.currentTarget.querySelector<HTMLInputElement>('input[type=file]');
    const [file] = event.dataTransfer.files;
    if (!field || !file) return;
    const chosen = new DataTransfer();
    chosen.items.add(file);
    field.files = chosen.files;
    field.dispatchEvent(new Event('change', { bubbles: true }));
  };
  return (
    <div
      className={`${className} ${isOver ? 'outline-2 outline-offset-2 outline-copper outline-dashed' : ''}`}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes('Files')) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={drop}
    >
      {children}
    </div>
  );
}
