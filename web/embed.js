// Shows a form inside another site's page:
//   <div data-amberseal="https://house.example/f/room-booking"></div>
//   <script src="https://house.example/embed.js" defer></script>
(function () {
  var here = new URL(document.currentScript.src).origin;
  var frames = [];
  document.querySelectorAll("[data-amberseal]").forEach(function (place) {
    var address = new URL(place.getAttribute("data-amberseal"), here);
    if (address.origin !== here || place.firstElementChild) return;
    var frame = document.createElement("iframe");
    frame.src = address.href;
    frame.title = place.getAttribute("data-title") || "Form";
    frame.setAttribute("loading", "lazy");
    frame.style.cssText = "width:100%;border:0;height:640px";
    place.appendChild(frame);
    frames.push(frame);
  });
  window.addEventListener("message", function (e) {
    if (
      e.origin !== here ||
      !e.data ||
      typeof e.data.ambersealHeight !== "number"
    )
      return;
    frames.forEach(function (frame) {
      if (frame.contentWindow !== e.source) return;
      frame.style.height =
        Math.max(120, Math.ceil(e.data.ambersealHeight)) + "px";
      if (e.data.ambersealTitle && !frame.parentNode.getAttribute("data-title"))
        frame.title = e.data.ambersealTitle;
    });
  });
})();
