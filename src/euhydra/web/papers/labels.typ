// Labels to cut out: two abreast, each with a code that a phone reads.

#import "sheet.typ": *

#let d = json(bytes(sys.inputs.told))
#show: sheet.with(d, foot: false, margin: 12mm)
#let gap = 2mm

#let label-of(x) = block(width: 88mm, height: 46mm, stroke: (thickness: 0.6pt, dash: "dashed"), clip: true,
  breakable: false, {
  place(top + right, dx: -3mm, dy: 3mm, image(bytes(x.code), format: "svg", width: 31mm, height: 31mm,
    alt: "The code of " + x.title))
  place(top + left, dx: 3mm, dy: 3mm, block(width: 50mm, height: 32mm, clip: true, {
    set par(spacing: 1.4mm)
    text(13pt, font: ("Title", "DejaVu Sans"), weight: "bold", x.title)
    parbreak()
    text(7.5pt, x.under)
    parbreak()
    x.line
  }))
  if x.sign != "" {
    place(bottom, block(width: 100%, fill: black, inset: 2mm, align(center,
      text(10pt, white, font: "Title", weight: "bold", x.sign))))
  }
})
#grid(columns: 2, gutter: gap, ..d.labels.map(label-of))
