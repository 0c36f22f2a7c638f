(function () {
  "use strict";
  document.documentElement.classList.add("scripted");
  var form = document.getElementById("choices");
  var count = document.getElementById("count");
  function chosen(name) {
    var one = form.querySelector("input[name=" + name + "]:checked");
    return one ? one.value : "";
  }
  function fits(list, word) {
    return !word || !list || list.split(" ").indexOf(word) >= 0;
  }
  function show() {
    var system = chosen("system"), role = chosen("role"), steps = 0;
    document.querySelectorAll("[data-systems], [data-roles]").forEach(function (one) {
      var seen = fits(one.dataset.systems, system) && fits(one.dataset.roles, role);
      one.hidden = !seen;
      if (seen && one.classList.contains("step")) { steps += 1; }
    });
    document.querySelectorAll("section.stage").forEach(function (one) {
      one.hidden = !one.querySelector(".step:not([hidden])");
    });
    count.textContent = steps === 1 ? "One thing is shown." : steps + " things are shown.";
  }
  form.addEventListener("change", show);
  form.addEventListener("submit", function (event) { event.preventDefault(); });
  var agent = navigator.userAgent;
  var here = /Windows/.test(agent) ? "windows" : /Mac OS X|Macintosh/.test(agent) ? "macos" : /Linux|X11/.test(agent) ? "linux" : "";
  var mine = here && form.querySelector("input[name=system][value=" + here + "]");
  if (mine) { mine.checked = true; }
  show();
})();
