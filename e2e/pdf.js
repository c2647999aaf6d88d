/** A small PDF document, a line of text a row. */
export function pdf(pages) {
  const objects = ['', '', '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>']
  const kids = []
  for (const lines of pages) {
    const stream = 'BT /F1 14 Tf 60 730 Td 22 TL ' + lines.map((l) => `(${l}) Tj T*`).join(' ') + ' ET'
    objects.push(`<< /Length ${stream.length} >>\nstream\n${stream}\nendstream`)
    objects.push(`<< /Type /Page /Parent 2 0 R /MediaBox [0 0 612 792] /Contents ${objects.length} 0 R /Resources << /Font << /F1 3 0 R >> >> >>`)
    kids.push(`${objects.length} 0 R`)
  }
  objects[0] = '<< /Type /Catalog /Pages 2 0 R >>'
  objects[1] = `<< /Type /Pages /Kids [${kids.join(' ')}] /Count ${kids.length} >>`
  let out = '%PDF-1.4\n'
  const at = objects.map((o, i) => { const here = out.length; out += `${i + 1} 0 obj\n${o}\nendobj\n`; return here })
  const start = out.length
  out += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n` + at.map((a) => `${String(a).padStart(10, '0')} 00000 n \n`).join('')
  return Buffer.from(out + `trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${start}\n%%EOF\n`, 'latin1')
}
