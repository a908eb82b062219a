// Every hole as a circle of its true size, and a line to check the print by.

#import "sheet.typ": *

#let d = json(bytes(sys.inputs.told))
#show: sheet.with(d)
#let thin = 0.3mm

#text(24pt, font: ("Title", "DejaVu Sans"), weight: "bold", d.garden)

*First measure this line.* It is #d.line long on a sheet printed at its true size. If it is not, print
again at 100 %, “actual size”, no fitting to the page: half-size circles would drill holes that nothing fits.

#box(width: d.line_mm * 1mm, height: 6mm, {
  place(dy: 3mm, line(length: d.line_mm * 1mm, stroke: thin))
  for (i, at) in d.ticks.enumerate() {
    let tall = if i == 0 or i == d.ticks.len() - 1 { 4mm } else { 2mm }
    place(dx: at * 1mm, dy: 3mm - tall / 2, line(angle: 90deg, length: tall, stroke: thin))
  }
})

Cut out, tape on, mark the middle with a nail, drill a pilot of 3 mm (1/8 in), then the hole. Glasses on.
Heights are measured on the thing itself.

#let template(hole) = {
  let size = hole.mm * 1mm
  let cross = size + 6mm
  let middle(angle) = place(center + horizon, line(angle: angle, length: cross, stroke: thin / 2))
  box(width: 86mm, inset: (bottom: 5mm, right: 4mm), align(left, {
    box(width: size + 8mm, height: size + 8mm, {
      place(center + horizon, circle(radius: size / 2, stroke: thin))
      middle(0deg)
      middle(90deg)
    })
    block(above: 1mm, below: 1mm, strong(hole.tool))
    for words in hole.places { block(above: 1mm, below: 1mm, words) }
  }))
}
#if d.holes.len() == 0 [Nothing in this garden is drilled.]
#grid(columns: (1fr, 1fr), ..d.holes.map(template))
