// What every sheet shares: its letters, its head and foot, tables, drawings, ticks.

#let rule(weight) = line(length: 100%, stroke: weight)

#let sheet(data, foot: true, margin: (x: 13mm, top: 11mm, bottom: 15mm), body) = {
  set document(title: data.title)
  set page(
    paper: data.paper,
    margin: margin,
    footer-descent: 3mm,
    footer: if foot {
      set text(8.5pt)
      rule(0.6pt)
      v(-1mm)
      grid(
        columns: (1fr, auto),
        data.garden,
        context [#counter(page).display() of #counter(page).final().first()],
      )
    },
  )
  set text(font: ("Words", "DejaVu Sans"), size: 9pt, lang: "en")
  set par(leading: 0.5em, spacing: 0.65em)
  set list(indent: 0pt, body-indent: 1.5mm, marker: [•], spacing: 0.5em)
  show heading: set text(font: ("Title", "DejaVu Sans"), weight: "bold")
  show heading.where(level: 1): it => block(sticky: true, above: 4mm, below: 2mm, {
    text(13pt, it.body)
    v(-3.4mm)
    rule(1.4pt)
  })
  show heading.where(level: 2): it => block(sticky: true, above: 3.2mm, below: 1.6mm, text(10.5pt, it.body))
  body
}

// A list of sheets' own, its ticks drawn: no font has to have them.
#let tick(done: false) = box(width: 2.6mm, height: 2.6mm, stroke: 0.6pt, baseline: 0.3mm, if done {
  place(center + horizon, curve(
    stroke: 0.9pt,
    curve.move((0mm, 0.7mm)),
    curve.line((0.7mm, 1.4mm)),
    curve.line((1.9mm, 0mm)),
  ))
})

// How something stands: in order, take care, stop; told by shape, since paper is grey.
#let mark(state) = box(width: 3.2mm, height: 3.2mm, baseline: 0.5mm, align(center + horizon, if state == "ok" {
  circle(radius: 1.15mm, stroke: 0.8pt)
} else if state == "care" {
  polygon(fill: black, (1.5mm, 0mm), (3mm, 2.7mm), (0mm, 2.7mm))
} else if state == "stop" {
  square(size: 2.5mm, fill: black)
} else {
  line(length: 2.2mm, stroke: 1pt)
}))

#let drawing(drawn, most) = layout(size => {
  let whole = image(bytes(drawn.svg), format: "svg", width: size.width, alt: drawn.alt)
  let tall = measure(whole).height
  if tall <= most { whole } else {
    image(bytes(drawn.svg), format: "svg", height: most, alt: drawn.alt)
  }
})

#let told(t) = {
  block(sticky: true, above: 2.4mm, below: 1.2mm, text(9.5pt, font: "Title", weight: "bold", t.caption))
  set text(8pt)
  table(
    columns: t.heads.len(),
    align: (x, y) => (if x in t.numbers { right } else { left }) + (if y == 0 { bottom } else { top }),
    inset: (x: 1.2mm, y: 0.7mm),
    stroke: (x, y) => (bottom: if y == 0 { 1pt } else { 0.4pt + luma(120) }),
    table.header(..t.heads.map(strong)),
    ..t.rows.flatten(),
  )
}

// Entries one after the other in two columns of even height.
#let evenly(entries) = layout(size => {
  let wide = (size.width - 7mm) / 2
  let tall = entries.map(e => measure(block(width: wide, e)).height + 1.2mm)
  let half = tall.sum(default: 0pt) / 2
  let (left, so-far) = (0, 0pt)
  while left < entries.len() and so-far < half {
    so-far += tall.at(left)
    left += 1
  }
  grid(columns: (1fr, 1fr), column-gutter: 7mm,
    entries.slice(0, left).join(), entries.slice(left).join())
})
