import Joi from 'joi';
import type { Id, SaveBackupWishes } from '@kalvet/core';
import { BACKUP_HOURS, LIMITS } from '@kalvet/core';
import { form, id, versionOrNew, whole, words } from '../write/schemas.ts';

export const wishes = form<SaveBackupWishes>({
  version: versionOrNew(),
  everyHours: Joi.number()
    .valid(...BACKUP_HOURS)
    .required(),
  keep: whole(LIMITS.backupsKept).required(),
  secondFolder: words(300).pattern(/^(\/.*)?$/, { name: 'a folder’s whole path, as /mnt/second/kalvet, or empty' }),
});

export const askBackup = form<{ readonly id: Id }>({ id: id().required() });
