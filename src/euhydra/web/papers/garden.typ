// The whole garden: one sheet for the shed, then how it stands, what to buy, to build, to mind.

#import "sheet.typ": *

#let d = json(bytes(sys.inputs.told))
#let narrow = d.paper == "us-letter"
#let small = if narrow { 7.7pt } else { 8.2pt }
#let gap = 7mm
#show: sheet.with(d)
#let called = d.contents.to-dict()
#let begin(key) = [#pagebreak(weak: true)#heading(level: 1, text(17pt, called.at(key))) #label(key)]
#let part(key, more: "") = [#heading(level: 1, called.at(key) + more) #label(key)]

#block(below: 1.6mm, text(24pt, font: ("Title", "DejaVu Sans"), weight: "bold", d.garden))
#d.made
#part("plan")
#drawing(d.plan, if narrow { 78mm } else { 96mm })

#part("settings")
#d.stand
#for t in d.settings { told(t) }
#if d.settings.len() == 0 [Nothing here waits for a timer.]
#for t in d.turns { told(t) }

#part("due")
#{
  set text(8.5pt)
  evenly(d.wall.map(((days, titles)) => block(spacing: 1.5mm)[*#days* #titles]))
}

#part("neighbour")
#d.away
#if d.note.len() > 0 { par[#d.note_head]; list(..d.note) }
#d.not_for_drinking

#begin("stands")
#table(
  columns: (auto, auto, auto, 1fr),
  inset: (x: 1.4mm, y: 0.9mm),
  stroke: (x, y) => (bottom: 0.5pt),
  ..d.stations.map(((name, figure, state, verdict)) => (
    mark(state), text(font: "Title", weight: "bold", name), align(right, figure), verdict)).flatten(),
)
#text(8pt)[#mark("ok") in order #h(4mm) #mark("care") take care #h(4mm) #mark("stop") stop]

#let entry((key, words)) = context {
  let at = locate(label(key))
  link(at, block(width: 100%, stroke: (bottom: (thickness: 0.4pt, dash: "dotted")),
    inset: (bottom: 0.7mm))[#words #h(1fr) #at.page()])
}
#grid(columns: (1fr, 1fr, 1fr), column-gutter: gap, row-gutter: 1.4mm, ..d.contents.map(entry))
#text(8pt, d.small)

#part("section", more: d.section_of)
#if d.section != none { drawing(d.section, 66mm) } else [Nothing is laid yet.]

#part("zones")
#if d.zones != none { drawing(d.zones, 66mm) }
#for t in d.zone_tables { told(t) }
#if d.zone_tables.len() == 0 [There are no zones yet.]

#begin("parts")
#d.prices
#let ruled(body) = block(width: 100%, breakable: false, spacing: 0.9mm, stroke: (bottom: 0.4pt + luma(120)),
  inset: (bottom: 0.9mm), body)
#{
  set text(small)
  set par(leading: 0.42em, spacing: 0.5em)
  columns(2, gutter: gap, for list in d.shopping {
    heading(level: 2, list.title)
    for row in list.rows {
      ruled({
        grid(columns: (1fr, auto), column-gutter: 3mm,
          [#tick(done: row.there) *#row.much* #row.name], row.cost)
        block(above: 0.9mm, inset: (left: 4mm), text(if narrow { 6.8pt } else { 7.2pt }, row.why))
      })
    }
  })
}

#begin("making")
#for (name, drawn) in d.marked + d.kits {
  block(breakable: false)[#heading(level: 2, outlined: false, bookmarked: false, name)
    #block(width: 150mm, drawing(drawn, if narrow { 70mm } else { 78mm }))]
}
#if d.heads != none { drawing(d.heads, 120mm) }
#set text(small)
#set par(leading: 0.42em, spacing: 0.5em)
#heading(level: 2)[Pieces to cut, true lengths]
#evenly(d.cuts.map(((tube, places)) => (
  block(spacing: 0.9mm, sticky: true, strong(tube)),
  ..places.map(((where, pieces)) => block(inset: (left: 3mm), spacing: 0.9mm)[#where: #pieces]),
)).flatten())
#if d.holes.len() > 0 {
  heading(level: 2)[Holes]
  evenly(d.holes.map(((what, how)) => block(inset: (left: 3mm), spacing: 0.9mm)[*#what*: #how]))
}

#begin("steps")
#let noted(step) = ruled({
  if step.places.len() == 0 { tick(done: step.done); [ ] }
  strong(step.title)
  if step.tool != "" { text(small - 0.4pt)[ (#step.tool)] }
  if step.how != "" { par(step.how) }
  for at in step.places { block(inset: (left: 3mm), spacing: 0.9mm)[#tick(done: at.done) *#at.name.* #at.own] }
  if step.test != "" [#parbreak()*Test.* #step.test]
  if step.caution != "" {
    block(spacing: 0.9mm, stroke: (left: 2pt), inset: (left: 2mm))[*Mind.* #step.caution]
  }
})
#columns(2, gutter: gap, for (name, steps) in d.steps {
  heading(level: 2, name)
  steps.map(noted).join()
})

#begin("cautions")
#columns(2, gutter: gap, {
  for (name, found) in d.cautions {
    heading(level: 2, name)
    for (level, title, why) in found { ruled[#mark(level) *#title*#parbreak()#why] }
  }
  part("year")
  for (title, days, words) in d.due { ruled[*#title*: #days#parbreak()#words] }
})
