import type { Readable } from 'node:stream';
import type { Text } from '@kalvet/core';
import { FILE_LIMITS, plain, say } from '@kalvet/core';
import sharp from 'sharp';
import type { PictureSize } from './chunks.ts';

// One picture at a time takes the machine's cores; nothing of one that is done is kept in memory.
sharp.cache(false);
sharp.concurrency(1);

/** How good a picture is kept: photographs in JPEG, what has see-through parts in PNG. */
const QUALITY: Readonly<Record<PictureSize, number>> = { full: 88, large: 82, small: 76 };
const PX: Readonly<Record<PictureSize, number>> = {
  full: FILE_LIMITS.keptPx,
  large: FILE_LIMITS.largePx,
  small: FILE_LIMITS.smallPx,
};

export interface PictureHead {
  readonly width: number;
  readonly height: number;
  readonly isClear: boolean;
}

/** What a picture's own head says. @returns the size as it stands upright, or why it cannot be kept */
export async function lookAt(path: string, name: string): Promise<PictureHead | { readonly refused: Text }> {
  try {
    const { width, height, hasAlpha, autoOrient } = await sharp(path, { limitInputPixels: false }).metadata();
    const megapixels = (width * height) / 1e6;
    if (megapixels > FILE_LIMITS.pictureMegapixels)
      return {
        refused: say`${name} is ${plain(width, 0)} × ${plain(height, 0)}, ${plain(megapixels, 0)} megapixels; up to ${plain(FILE_LIMITS.pictureMegapixels, 0)} are taken`,
      };
    return { width: autoOrient.width, height: autoOrient.height, isClear: hasAlpha };
  } catch {
    return { refused: say`${name} is damaged: it begins like a picture and cannot be read as one` };
  }
}

/**
 * One size of a picture, written anew: upright, in common colours, and without anything that was in the file beside the
 * picture (where and with what it was taken).
 */
export function remade(path: string, size: PictureSize, isClear: boolean): Readable {
  const made = sharp(path, { limitInputPixels: FILE_LIMITS.pictureMegapixels * 1e6, failOn: 'truncated' })
    .autoOrient()
    .resize({ width: PX[size], height: PX[size], fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb');
  return isClear ? made.png({ compressionLevel: 7 }) : made.jpeg({ quality: QUALITY[size] });
}

/** The size at which the whole of it is kept. */
export function keptSize({ width, height }: PictureHead): { width: number; height: number } {
  const share = Math.min(1, PX.full / Math.max(width, height));
  return { width: Math.round(width * share), height: Math.round(height * share) };
}

export const pictureMime = (isClear: boolean): string => (isClear ? 'image/png' : 'image/jpeg');
