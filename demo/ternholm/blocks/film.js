const film = document.getElementById("boarding-film");
for (const opener of document.querySelectorAll("[data-film]")) {
  opener.addEventListener("click", (e) => {
    e.preventDefault();
    film?.showModal();
  });
}
