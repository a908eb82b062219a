// The garden on a day with its words, as one image.

#import "sheet.typ": drawing

#let d = json(bytes(sys.inputs.told))
#set page(width: 880pt, height: auto, margin: 15pt, fill: rgb("#f2f0e6"))
#set text(font: ("Words", "DejaVu Sans"), size: 13pt, fill: rgb("#14262b"))
#set par(leading: 0.45em)
#text(13pt, fill: rgb("#566562"))[#d.garden · #d.date]
#block(above: 6pt, text(22pt, font: ("Title", "DejaVu Sans"), weight: "bold", d.head))
#drawing(d.picture, 900pt)
