import { strToU8, zipSync } from 'fflate'
import { TenderError } from '../../errors'
import { meshEdges } from '../edges'
import { triangleCount, type Mesh } from '../mesh'

/** One body of a 3MF file. Colour as #rrggbb. */
export type Body3mf = { readonly name: string; readonly colour: string; readonly mesh: Mesh }

/** Takes half the time of the usual level; files are a tenth larger. */
const PACKED = 1

/**
 * Writes bodies into one 3MF file: each an object of its own with name and colour, and one assembly that
 * keeps them in place.
 * @param description plain text that the file carries along
 * @throws TenderError SOLID_NOT_CLOSED when a body is not a closed, consistently oriented solid, as the
 * format demands
 * Source: 3MF core specification 1.3 (package layout, content types, mesh rules, base materials).
 */
export function write3mf(title: string, bodies: readonly Body3mf[], description = ''): Uint8Array {
  for (const body of bodies)
    if (meshEdges(body.mesh).openCount > 0)
      throw new TenderError(
        'SOLID_NOT_CLOSED',
        `The body "${body.name}" is not closed; a 3MF file may only hold closed solids.`,
        { name: body.name },
      )
  const model = `<?xml version="1.0" encoding="UTF-8"?>
<model unit="millimeter" xml:lang="en-GB" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">
<metadata name="Title">${escapeXml(title)}</metadata>
<metadata name="Application">Tender Bridge</metadata>${description && `\n<metadata name="Description">${escapeXml(description)}</metadata>`}
<resources>
<basematerials id="1">
${bodies.map((body) => `<base name="${escapeXml(body.name)}" displaycolor="${body.colour.toUpperCase()}FF"/>`).join('\n')}
</basematerials>
${bodies.map((body, i) => object(body, i)).join('\n')}
<object id="${bodies.length + 2}" type="model" name="${escapeXml(title)}"><components>
${bodies.map((_, i) => `<component objectid="${i + 2}"/>`).join('\n')}
</components></object>
</resources>
<build><item objectid="${bodies.length + 2}"/></build>
</model>`
  return zipSync(
    {
      '[Content_Types].xml': strToU8(
        '<?xml version="1.0" encoding="UTF-8"?>\n<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>',
      ),
      '_rels/.rels': strToU8(
        '<?xml version="1.0" encoding="UTF-8"?>\n<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>',
      ),
      '3D/3dmodel.model': strToU8(model),
    },
    // A fixed date keeps the same plan giving the same bytes.
    { level: PACKED, mtime: new Date(2020, 0, 1) },
  )
}

function object(body: Body3mf, index: number): string {
  const { positionsMm: p, corners: c } = body.mesh
  const lines: string[] = [
    `<object id="${index + 2}" type="model" name="${escapeXml(body.name)}" pid="1" pindex="${index}"><mesh><vertices>`,
  ]
  for (let v = 0; v < p.length; v += 3)
    lines.push(`<vertex x="${short(p[v])}" y="${short(p[v + 1])}" z="${short(p[v + 2])}"/>`)
  lines.push('</vertices><triangles>')
  for (let t = 0; t < triangleCount(body.mesh); t++)
    lines.push(`<triangle v1="${c[3 * t]}" v2="${c[3 * t + 1]}" v3="${c[3 * t + 2]}"/>`)
  lines.push('</triangles></mesh></object>')
  return lines.join('\n')
}

/** Six decimals are a nanometre: enough that no two vertices fall together. */
const short = (value: number) => String(Math.round(value * 1e6) / 1e6 + 0)

/** Control characters may not stand in XML at all, escaped or not. */
// oxlint-disable-next-line no-control-regex
const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g

const escapeXml = (text: string) =>
  text.replace(CONTROL, '').replace(/[<>&"']/g, (mark) => `&#${mark.charCodeAt(0)};`)
