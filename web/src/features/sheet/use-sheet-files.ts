import type { SheetSource } from '@gezeit/contract';
import { ref, type Ref } from 'vue';
import { api, ApiFailure } from '../../shared/api/client.js';
import { whoAsks } from '../../shared/api/seat.js';
import { saveTable, saveText } from '../../shared/save.js';
import { standaloneHtml } from './sheet-file.js';
import { SHEET_TABLES } from './sheet-tables.js';

/** The sheet that is shown, as what leaves the house. */
export interface ShownSheet {
  /** Where its paper stands. */
  box: HTMLElement;
  source: SheetSource;
  candidate: string;
  /** Without what a file's name ends with. */
  fileName: string;
  title: string;
  /** The size and edges of its pages, as a rule of a style sheet. */
  pageRule: string;
}

/** How a sheet is saved: as one page that stands by itself, as a PDF, as its findings, and as tables of its data. */
export function useSheetFiles(shown: () => ShownSheet, failure: Ref<ApiFailure | null>) {
  const printing = ref(false);
  const paperOf = ({ box }: ShownSheet) => box.querySelector('.papers, .paper')!;

  async function saveHtml(): Promise<void> {
    const sheet = shown();
    saveText(`${sheet.fileName}.html`, 'text/html', await standaloneHtml(paperOf(sheet), sheet.title));
  }
  /** By the Chromium of the machine that serves Gezeit: the same paper on every desk. Where none is, that is said, with what to do. */
  async function savePdf(): Promise<void> {
    const sheet = shown();
    printing.value = true;
    failure.value = null;
    try {
      const html = await standaloneHtml(paperOf(sheet), sheet.fileName, sheet.pageRule);
      const pdf = await api.bytes('/api/pdf', {
        method: 'POST',
        headers: { ...whoAsks(), 'content-type': 'text/html' },
        body: html,
      });
      saveText(`${sheet.fileName}.pdf`, 'application/pdf', pdf);
    } catch (error) {
      failure.value = ApiFailure.of(error, 'The PDF could not be made.', 'Use Print: your browser makes it.');
    } finally {
      printing.value = false;
    }
  }
  function saveFindings(): void {
    const { fileName, source } = shown();
    saveText(`${fileName}.json`, 'application/json', `${JSON.stringify(source.findings, null, 2)}\n`);
  }
  const tables = Object.entries(SHEET_TABLES).map(([name, { label, of }]) => ({
    label,
    command: () => {
      const { fileName, source, candidate } = shown();
      void saveTable(`${fileName}-${name}.csv`, of(source, candidate));
    },
  }));

  return { printing, saveHtml, savePdf, saveFindings, tables };
}
