# What would make this machine ready for Driftbuoy.
# It was made for one machine: Windows 11 Home (10.0.22631), x86_64.
# Read it before you run it, in the project's folder. Nobody else has: the guide's author and
# setup-ready 0.1.0 made it. Where only a person can do a step, it says so and waits.
$again = 'setup-ready preflight --role shore'
$ErrorActionPreference = 'Stop'
$at = ''
trap {
    if ($at) { Write-Host "`nStep $at did not work. What comes after it was not done.`nSee what it says below, then look again: $again" }
    break
}
function Show-Step([string] $Number, [string] $What) {
    $script:at = $Number
    Write-Host "`nStep ${Number}: $What"
}
function Add-Line([string] $File, [string[]] $Lines) {
    $folder = Split-Path -Parent $File
    if ($folder -and -not (Test-Path -LiteralPath $folder)) { $null = New-Item -ItemType Directory -Force -Path $folder }
    if (Test-Path -LiteralPath $File) {
        $last = @(Get-Content -LiteralPath $File -Tail $Lines.Count) -join "`n"
        if ($last -ceq ($Lines -join "`n")) { Write-Host "It stands at the end of $File already."; return }
        $text = Get-Content -LiteralPath $File -Raw
        if ($text -and -not $text.EndsWith("`n")) { Add-Content -LiteralPath $File -Value '' }
    }
    Add-Content -LiteralPath $File -Value $Lines
    Write-Host "Written into ${File}:"
    $Lines | ForEach-Object { Write-Host "    $_" }
}
function Show-Person {
    Write-Host ''
    $args | ForEach-Object { Write-Host $_ }
    if ([Environment]::UserInteractive -and -not [Console]::IsInputRedirected) {
        $null = Read-Host 'Press Enter when that is done, or Ctrl-C to stop here'
    }
}
function Invoke-Step([string] $Command) {
    $global:LASTEXITCODE = 0
    Invoke-Expression $Command
    if ($global:LASTEXITCODE -ne 0) { throw "This step ended with the status ${global:LASTEXITCODE}: $Command" }
}
if (-not (Test-Path -LiteralPath './setup-guide.toml')) { Write-Host 'Run this in the project''s folder: the one with setup-guide.toml.'; exit 1 }

# 1. Look whether other addresses can be opened in a browser. If they can, this one is wrong or for a network that you are not in; if none can, connect to the network again.
#    Settles the download server.
Show-Person 'For you, step 1: Look whether other addresses can be opened in a browser. If they can, this one is wrong or for a network that you are not in; if none can, connect to the network again.'

# 2. Install python3 and sqlite3 with winget.
#    Settles python3 and sqlite3.
Show-Step 2 'Install python3 and sqlite3 with winget.'
Invoke-Step 'winget install Python.Python.3.12 SQLite.SQLite'

# 3. Open a new terminal: it may find what this one does not know yet. If it does not, put C:\Program Files\nodejs on your PATH.
#    Settles Node.js.
Show-Step 3 'Open a new terminal: it may find what this one does not know yet. If it does not, put C:\Program Files\nodejs on your PATH.'
Invoke-Step '[Environment]::SetEnvironmentVariable(''Path'', ''C:\Program Files\nodejs'' + '';'' + [Environment]::GetEnvironmentVariable(''Path'', ''User''), ''User'')'

# 4. Put the file at C:/Users/guest/.config/driftbuoy/buoy.key. Where it comes from: https://driftbuoy.example/handbook/keys
#    Settles the signing key.
Show-Person 'For you, step 4: Put the file at C:/Users/guest/.config/driftbuoy/buoy.key. Where it comes from: https://driftbuoy.example/handbook/keys'

# 5. Set BUOY_REGION in .env, with your own value in the place of north, which is an example.
#    Settles the sea region.
#    Put in your own value first:
#      Add-Line '.env' 'BUOY_REGION=north'
Show-Person 'For you, step 5: Set BUOY_REGION in .env, with your own value in the place of north, which is an example.' '    Add this line to .env: BUOY_REGION=north'

# 6. Have the project use port 7071 instead, which is free.
#    Settles the station's port.
Show-Step 6 'Have the project use port 7071 instead, which is free.'
Add-Line '.env' 'SHORE_PORT=7071'

# 7. Give this machine the name shore.test: add a line to C:\Windows\System32\drivers\etc\hosts. (needs admin rights)
#    Settles the station's name.
#    For whoever looks after this machine:
#      Add-Content -Path C:\Windows\System32\drivers\etc\hosts -Value '127.0.0.1 shore.test'
Show-Person 'For whoever looks after this machine, step 7: Give this machine the name shore.test: add a line to C:\Windows\System32\drivers\etc\hosts.' '    Add-Content -Path C:\Windows\System32\drivers\etc\hosts -Value ''127.0.0.1 shore.test'''

# 8. Switch on developer mode (Settings, System, For developers): with it every user may make symbolic links. (recommended)
#    Settles symbolic links.
#    Mind: Developer mode also lets Windows install programs that nobody has signed.

# 9. Set BUOY_TOKEN in .env, with your own value in the place of YOUR-VALUE. (optional)
#    Settles the token for uploads.
#    Put in your own value first:
#      Add-Line '.env' 'BUOY_TOKEN=YOUR-VALUE'

# 10. Open a new terminal, so that the changes above take effect.
#    Settles python3, Node.js and sqlite3.

# 11. Have that Python put its own installer in place. (after that, most likely)
#    Settles that Python's package installer.
#    Only after the step above, in a script made when that is done:
#      python3 -m ensurepip --upgrade

# 12. Make an environment of Python for this project (.venv), let its pip bring pyyaml, and use it. (after that, most likely)
#    Settles the reader of the station's settings.
#    Mind: The last line holds for this terminal: type it again in every new one, then check again there.
#    Only after the step above, in a script made when that is done:
#      python3 -m venv .venv
#      .venv\Scripts\python -m pip install 'pyyaml>=5'
#      .venv\Scripts\Activate.ps1

Write-Host 'Now open a new terminal, then check again: setup-ready preflight --role shore'
