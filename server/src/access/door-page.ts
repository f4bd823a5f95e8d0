const AS_TEXT: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };
const escaped = (text: string) => text.replace(/[&<>"']/g, (letter) => AS_TEXT[letter]!);

/** The one page that is shown to somebody who has not come in: a plain form, without a script. */
export function doorPage({ problem, next, plain }: { problem: string | null; next: string; plain: boolean }): string {
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Gezeit: access key</title>
<style>
:root { color-scheme: light dark; }
body { font: 17px/1.5 system-ui, sans-serif; max-width: 30rem; margin: 12vh auto; padding: 0 1.4rem; }
h1 { font-size: 1.5rem; } label { display: block; font-weight: 600; }
input { font: inherit; width: 100%; box-sizing: border-box; padding: .5rem; margin: .3rem 0 1rem; }
button { font: inherit; font-weight: 600; padding: .5rem 1.4rem; } .problem { font-weight: 650; color: light-dark(#8a2f1f, #ff9f8a); }
</style>
</head>
<body>
<h1>Gezeit</h1>
${problem === null ? '' : `<p class="problem" role="alert">${escaped(problem)}</p>`}
<form method="post" action="/door">
<input type="hidden" name="next" value="${escaped(next)}">
<label for="key">Access key</label>
<input id="key" name="key" type="password" autocomplete="current-password" required autofocus spellcheck="false">
<button type="submit">Come in</button>
</form>
<p>Whoever runs Gezeit on the machine in the cell makes one: <code>gezeit key new</code>.</p>
${plain ? '<p class="problem">This address is not encrypted: whoever is on this network can read along, the key too.</p>' : ''}
</body>
</html>
`;
}
