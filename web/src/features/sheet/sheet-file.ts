/** A resource that a stylesheet names, as a data address: a file that stands by itself asks for nothing. */
async function asDataAddress(address: string): Promise<string> {
  const blob = await (await fetch(address)).blob();
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error('The font could not be read.'));
    reader.readAsDataURL(blob);
  });
}

const isFontFace = (rule: CSSRule): rule is CSSFontFaceRule => rule instanceof CSSFontFaceRule;

/** Whether a part of a font holds the plain letters: one without a range holds all. Letters of other alphabets come from the reader's own fonts. */
const isOfPlainLetters = (rule: CSSFontFaceRule): boolean => {
  const range = rule.style.getPropertyValue('unicode-range');
  return range === '' || /U\+0+-/i.test(range);
};

/** The font of the pages, its files within; the icons' font is not needed on paper. */
async function fontsOf(rules: readonly CSSRule[]): Promise<string[]> {
  const used = rules.filter(isFontFace).filter((rule) => !/primeicons/i.test(rule.cssText) && isOfPlainLetters(rule));
  return Promise.all(
    used.map(async (rule) => {
      const base = rule.parentStyleSheet?.href ?? document.baseURI;
      const [, address] = /url\("?([^")]+)"?\)/.exec(rule.cssText) ?? [];
      if (!address) return '';
      return rule.cssText.replace(/url\("?[^")]+"?\)/, `url("${await asDataAddress(new URL(address, base).href)}")`);
    }),
  );
}

/** The rules that anything of an element is drawn by. */
function rulesFor(element: Element, rules: readonly CSSRule[]): string[] {
  const matches = (selector: string) => {
    try {
      return element.matches(selector) || element.querySelector(selector) !== null;
    } catch {
      return false;
    }
  };
  return rules.flatMap((rule): string[] => {
    if (rule instanceof CSSStyleRule)
      return /^(:root|html|body|\*)/.test(rule.selectorText) || matches(rule.selectorText) ? [rule.cssText] : [];
    if (rule instanceof CSSMediaRule) {
      const inside = rulesFor(element, [...rule.cssRules]);
      return inside.length > 0 ? [`@media ${rule.conditionText} { ${inside.join('\n')} }`] : [];
    }
    if (rule instanceof CSSLayerBlockRule) return rulesFor(element, [...rule.cssRules]);
    return [];
  });
}

const AS_TEXT: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;' };

/** A part of the page as one file that stands by itself: its styles and font within, and no script. `pageRule`: the paper it is printed on. */
export async function standaloneHtml(element: Element, title: string, pageRule = ''): Promise<string> {
  const rules = [...document.styleSheets].flatMap((sheet) => [...sheet.cssRules]);
  const styles = [...(await fontsOf(rules)), ...rulesFor(element, rules), 'body { margin: 0; background: #fff; }', pageRule];
  const name = title.replace(/[&<>]/g, (letter) => AS_TEXT[letter]!);
  return `<!doctype html>
<html lang="en" data-theme="light">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${name}</title>
<style>${styles.join('\n').replaceAll('</', '<\\/')}</style></head>
<body>${element.outerHTML}</body>
</html>
`;
}
