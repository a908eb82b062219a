// What is bundled is not checked again.
export const Idiomorph: any;
export const Plot: any;
export const select: any;
export const zoom: any;
export const zoomIdentity: any;
declare const Alpine: any;
export default Alpine;
