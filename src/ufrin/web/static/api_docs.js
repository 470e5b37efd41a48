// Shows the interface's own description with the shipped viewer.
addEventListener("DOMContentLoaded", () => {
  const at = document.getElementById("docs");
  SwaggerUIBundle({ domNode: at, url: at.dataset.url, validatorUrl: null });
});
