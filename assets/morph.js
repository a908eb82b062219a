export { Idiomorph } from "idiomorph";
