import { inWords } from '../units/words.ts';
import { box, stlBytes } from '../testing/shapes.ts';
import { kindOfFile } from './kind-of.ts';

const bytes = (...parts: (string | number[])[]): Uint8Array =>
  Uint8Array.from(parts.flatMap((part) => (typeof part === 'string' ? [...part].map((c) => c.charCodeAt(0)) : part)));
const called = (head: Uint8Array, name: string, length = head.length): string => {
  const found = kindOfFile(head, { name, bytes: length });
  return 'refused' in found ? inWords(found.refused) : found.called;
};

describe('what a file is', () => {
  it('is told by its first bytes, whatever its name says', () => {
    expect(called(bytes('%PDF-1.7'), 'otter.stl')).toBe('PDF');
    expect(called(bytes([0xff, 0xd8, 0xff, 0xe1]), 'scan.pdf')).toBe('JPEG picture');
    expect(called(bytes('RIFF', [9, 9, 9, 9], 'WEBP'), 'a')).toBe('WebP picture');
    expect(called(bytes('glTF', [2, 0, 0, 0]), 'a.jpg')).toBe('GLB model');
    expect(called(bytes('PK', [3, 4]), 'a.3mf')).toBe('3MF model');
    expect(called(bytes([0, 0, 0, 24], 'ftypheic'), 'IMG_2.HEIC')).toMatch(/HEIC are not read/);
    expect(called(bytes([0, 0, 0, 24], 'ftypqt  '), 'pour.mov')).toMatch(/films/);
  });

  it('needs name and contents to agree where there is no mark', () => {
    const cube = stlBytes(box(10, 10, 10));
    expect(called(cube, 'cube.stl')).toBe('STL model');
    expect(called(bytes('solid cube\nfacet normal 0 0 1\n'), 'cube.STL')).toBe('STL model');
    expect(called(bytes('# made by hand\nv 0 0 0\n'), 'a.obj')).toBe('OBJ model');
    // The same bytes under another name, and other bytes under these names.
    expect(called(cube, 'cube.bin')).toMatch(/cube\.bin is nothing that is kept here/);
    expect(called(bytes('#!/bin/sh\nrm -r'), 'a.obj')).toMatch(/nothing that is kept/);
    expect(called(bytes('<svg onload=alert(1)>'), 'a.stl')).toMatch(/nothing that is kept/);
    expect(called(bytes(''), 'empty.jpg')).toBe('empty.jpg is empty');
  });

  it('is too large only by the limit of its own kind', () => {
    expect(called(bytes([0xff, 0xd8, 0xff, 0xe1]), 'wall.jpg', 61e6)).toBe(
      'wall.jpg has 61 MB; a picture may have 60 MB',
    );
    expect(called(bytes('ply\n'), 'hound.ply', 240e6)).toBe('PLY model');
    expect(called(bytes('ply\n'), 'hound.ply', 251e6)).toMatch(/a model may have 250 MB/);
  });
});
