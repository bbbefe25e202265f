@echo off
rem Runs Fiador out of an unpacked release.
setlocal
set "JAVA=java"
if defined JAVA_HOME set "JAVA=%JAVA_HOME%\bin\java"
"%JAVA%" -XX:TieredStopAtLevel=1 -XX:+UseSerialGC -Xshare:auto -cp "%~dp0..\lib\*" fiador.cli.Main %*
exit /b %ERRORLEVEL%
