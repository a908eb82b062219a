// What the charts and the plan need of Observable Plot and D3, as one module.
export * as Plot from "@observablehq/plot";
export { select, zoom, zoomIdentity } from "d3";
