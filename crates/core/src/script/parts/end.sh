
printf '\n%s met, %s needed and not met, %s needed and unknown.\n' "$met" "$unmet" "$unsure"
if [ "$unmet" -gt 0 ]; then echo 'Not ready.'; exit 1; fi
if [ "$unsure" -gt 0 ]; then echo 'Undecided: this script cannot see everything. The program can: setup-ready preflight'; exit 3; fi
echo 'Ready, as far as this script looks.'
