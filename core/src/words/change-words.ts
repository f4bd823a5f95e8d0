import type { Change, ChangeKind } from '@gezeit/contract';

/** What a change was, from what it was about; an edit says it itself. */
const CHANGE_WORDS: Readonly<Record<ChangeKind, (subject: string) => string>> = {
  edit: (subject) => subject,
  'pull-excluded': (pull) => `whether pull ${pull} counts`,
  'pull-amended': (pull) => `pull ${pull} corrected`,
  'files-added': (subject) => subject,
  'log-aligned': (subject) => `log moved, ${subject}`,
  evidence: (key) => `bench result ${key}`,
  fixed: (key) => `fixed answer ${key}`,
  attachment: (file) => `attachment ${file.split('/').at(-1)}`,
  archived: () => 'put away, or brought back',
};

/** What a change was, in words: "setup C added", "whether pull p05 counts". */
export const changeText = ({ kind, subject }: Pick<Change, 'kind' | 'subject'>): string => CHANGE_WORDS[kind](subject);
