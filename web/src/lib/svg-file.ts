/** A drawing on the screen as a file of its own: colours and type that the page lends it are written in. */
export function svgFile(drawing: SVGSVGElement): Blob {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  for (const hit of Array.from(copy.querySelectorAll("[role=button]"))) hit.remove();
  // what the page's style sheet says does not travel with the file; the page itself allows no such attribute
  const style = 'style="color:#1c1f22;background:#ffffff;font-family:sans-serif"';
  const text = new XMLSerializer().serializeToString(copy).replace("<svg", `<svg ${style}`);
  return new Blob([text], { type: "image/svg+xml" });
}

/** Hand a file to the person. */
export function save(content: Blob, name: string): void {
  const address = URL.createObjectURL(content);
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 1000);
}
