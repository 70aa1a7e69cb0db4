// Shows a form inside another site's page:
//   <div data-amberseal="https://house.example/f/room-booking"></div>
//   <script src="https://house.example/embed.js" defer></script>
// Where the frame stays silent, as when the house does not list the site, a link to the form stands in its place.
(function () {
  var here = new URL(document.currentScript.src).origin;
  var patience = 4000;
  var words = {
    de: "Das Formular auf einer eigenen Seite öffnen",
    en: "Open the form in a page of its own",
    es: "Abrir el formulario en su propia página",
    fr: "Ouvrir le formulaire dans sa propre page",
    pl: "Otwórz formularz na osobnej stronie",
  };
  var language = (document.documentElement.lang || "en").slice(0, 2).toLowerCase();
  var frames = [];
  document.querySelectorAll("[data-amberseal]").forEach(function (place) {
    var address = new URL(place.getAttribute("data-amberseal"), here);
    if (address.origin !== here || place.firstElementChild) return;
    var frame = document.createElement("iframe");
    frame.src = address.href;
    frame.title = place.getAttribute("data-title") || "Form";
    frame.setAttribute("loading", "lazy");
    frame.style.cssText = "width:100%;border:0;height:640px";
    frame.addEventListener("load", function () {
      setTimeout(function () {
        if (!frame.heard) stepAside(frame, address.href);
      }, patience);
    });
    place.appendChild(frame);
    frames.push(frame);
  });
  function stepAside(frame, address) {
    if (frame.beside) return;
    var link = document.createElement("a");
    link.href = address;
    link.target = "_blank";
    link.rel = "noopener";
    link.textContent = words[language] || words.en;
    frame.beside = link;
    frame.style.display = "none";
    frame.parentNode.appendChild(link);
  }
  window.addEventListener("message", function (e) {
    if (
      e.origin !== here ||
      !e.data ||
      typeof e.data.ambersealHeight !== "number"
    )
      return;
    frames.forEach(function (frame) {
      if (frame.contentWindow !== e.source) return;
      frame.heard = true;
      if (frame.beside) {
        frame.beside.remove();
        frame.beside = null;
        frame.style.display = "";
      }
      frame.style.height =
        Math.max(120, Math.ceil(e.data.ambersealHeight)) + "px";
      if (e.data.ambersealTitle && !frame.parentNode.getAttribute("data-title"))
        frame.title = e.data.ambersealTitle;
    });
  });
})();
