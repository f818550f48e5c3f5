/** A statement's lines as JSON text, in sections inside one another. */
export function deepLines(levels: number): string {
  const open = '{"kind":"section","key":"a","name":"A","lines":[';
  return `{"name":"Deep","lineSet":{"key":"l","name":"L","percentBase":"a","lines":[${open.repeat(levels)}${']}'.repeat(levels)}]}}`;
}

/** A zip file of deflated parts whose sizes are as said, true or not. Checksums are left out: readers of the directory do not need them. */
export function zipOf(parts: readonly { readonly name: string; readonly content: Buffer; readonly size: number }[]): Buffer {
  const pieces: Buffer[] = [];
  const directory: Buffer[] = [];
  let offset = 0;
  for (const { name, content, size } of parts) {
    const local = Buffer.alloc(30);
    local.writeUInt32LE(0x04034b50, 0);
    local.writeUInt16LE(20, 4);
    local.writeUInt16LE(8, 8);
    local.writeUInt32LE(content.length, 18);
    local.writeUInt32LE(size, 22);
    local.writeUInt16LE(name.length, 26);
    const central = Buffer.alloc(46);
    central.writeUInt32LE(0x02014b50, 0);
    central.writeUInt16LE(20, 4);
    central.writeUInt16LE(20, 6);
    central.writeUInt16LE(8, 10);
    central.writeUInt32LE(content.length, 20);
    central.writeUInt32LE(size, 24);
    central.writeUInt16LE(name.length, 28);
    central.writeUInt32LE(offset, 42);
    pieces.push(local, Buffer.from(name), content);
    directory.push(central, Buffer.from(name));
    offset += local.length + name.length + content.length;
  }
  const listed = Buffer.concat(directory);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(parts.length, 8);
  end.writeUInt16LE(parts.length, 10);
  end.writeUInt32LE(listed.length, 12);
  end.writeUInt32LE(offset, 16);
  return Buffer.concat([...pieces, listed, end]);
}
