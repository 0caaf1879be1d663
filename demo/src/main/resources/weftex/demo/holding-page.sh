# What visitors see while live is being written to: up puts the page in front of the site, down takes it away.
[ "$WEFTEX_INTO" = live ] || [ -z "$WEFTEX_INTO" ] || exit 0
case $1 in
  up) echo 'Skerrow Ferries is being updated. Back in a minute.' > holding-page.txt && echo 'The holding page is up.' ;;
  down) rm -f holding-page.txt && echo 'The holding page is down again.' ;;
esac
