import Alpine from "@alpinejs/csp";
export default Alpine;
