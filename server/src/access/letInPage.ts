const escaped = (text: string) => text.replace(/[&<>"']/g, (mark) => `&#${mark.charCodeAt(0)};`)

/** The page that a device sees before it is let in: one field, no script. */
export const letInPage = (code: string, problem: string | null): string => `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Let in · Tender Bridge</title>
<style>
body { font: 17px/1.5 Georgia, serif; background: #f6f2ea; color: #262230; margin: 0; display: grid; place-items: center; min-height: 100vh }
main { max-width: 21em; padding: 24px }
h1 { font-weight: 500; font-size: 26px; line-height: 1.2 }
label { display: block; margin-bottom: 6px }
input { font: 28px ui-monospace, monospace; letter-spacing: .2em; width: 8em; padding: 8px 12px; border: 1px solid #ddd4c6; border-radius: 8px; background: #fffdf8; color: inherit }
button { display: block; margin-top: 16px; font: 500 17px system-ui, sans-serif; padding: 12px 20px; border: 0; border-radius: 8px; background: #6b2c5c; color: #fff }
:focus-visible { outline: 2px solid #6b2c5c; outline-offset: 2px }
p[role=alert] { color: #8d1f4b }
@media (prefers-color-scheme: dark) { body { background: #1b1822; color: #f0ebe1 } input { background: #24202d; border-color: #463f50 } button { background: #d79bc4; color: #241a22 } p[role=alert] { color: #e0648f } }
</style>
<main>
<h1>This workshop is shared by code</h1>
<form method="post" action="/let-in">
<label for="code">The six figures shown on the bench</label>
<input id="code" name="code" inputmode="numeric" autocomplete="one-time-code" maxlength="7" value="${escaped(code)}" autofocus required>
${problem === null ? '' : `<p role="alert">${escaped(problem)}</p>`}
<button>Let me in</button>
</form>
</main>
</html>
`
