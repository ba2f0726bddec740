package main

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"

	"github.com/pocketbase/dbx"
	"github.com/pocketbase/pocketbase"
	"github.com/pocketbase/pocketbase/apis"
	"github.com/pocketbase/pocketbase/core"
	"github.com/pocketbase/pocketbase/tools/types"
)

const peerUser = "one@example.com"

// servePeer serves the other back end from a folder that fillTheirs filled.
func servePeer(folder, addr string) error {
	app, err := theirApp(folder)
	if err != nil {
		return err
	}
	return apis.Serve(app, apis.ServeConfig{HttpAddr: addr})
}

func theirApp(folder string) (core.App, error) {
	app := pocketbase.NewWithConfig(pocketbase.Config{DefaultDataDir: folder, HideStartBanner: true, DBConnect: func(path string) (*dbx.DB, error) {
		// Its own settings, but that it waits for the disk as this program does.
		return dbx.Open("sqlite", path+"?_pragma=busy_timeout(10000)&_pragma=journal_mode(WAL)&_pragma=journal_size_limit(200000000)"+
			"&_pragma=synchronous(FULL)&_pragma=foreign_keys(ON)&_pragma=temp_store(MEMORY)&_pragma=cache_size(-32000)")
	}})
	if err := app.Bootstrap(); err != nil {
		return nil, err
	}
	return app, app.RunAllMigrations()
}

// fillTheirs makes its collections, an account, and the jobs.
func fillTheirs(folder string, n int) error {
	app, err := theirApp(folder)
	if err != nil {
		return err
	}
	defer app.ResetBootstrapState()
	app.Settings().Logs.MaxDays = 0 // it keeps no log of requests in its database
	if err := app.Save(app.Settings()); err != nil {
		return err
	}
	signedIn := types.Pointer("@request.auth.id != ''")
	jobs := core.NewBaseCollection("jobs")
	for _, f := range []string{"number", "customer", "address", "town", "rulebook", "stage", "next_date", "next_what", "blocker"} {
		jobs.Fields.Add(&core.TextField{Name: f})
	}
	for _, f := range []string{"stops", "watches", "opens"} {
		jobs.Fields.Add(&core.NumberField{Name: f})
	}
	jobs.ListRule, jobs.ViewRule = signedIn, signedIn
	jobs.AddIndex("jobs_list", false, "next_date, number", "")
	jobs.AddIndex("jobs_stage_list", false, "stage, next_date, number", "")
	entries := core.NewBaseCollection("entries")
	for _, f := range []string{"entry", "job", "kind", "reason"} {
		entries.Fields.Add(&core.TextField{Name: f, Required: true})
	}
	entries.Fields.Add(&core.DateField{Name: "at", Required: true})
	entries.ListRule, entries.ViewRule, entries.CreateRule = signedIn, signedIn, signedIn
	entries.AddIndex("entries_entry", true, "entry", "")
	entries.AddIndex("entries_job", false, "job", "")
	for _, c := range []*core.Collection{jobs, entries} {
		if err := app.Save(c); err != nil {
			return err
		}
	}
	users, err := app.FindCollectionByNameOrId("users")
	if err != nil {
		return err
	}
	one := core.NewRecord(users)
	one.SetEmail(peerUser)
	one.SetPassword(password)
	if err := app.Save(one); err != nil {
		return err
	}
	return app.RunInTransaction(func(tx core.App) error {
		for i := range n {
			j := jobAt(i)
			_, err := tx.DB().Insert("jobs", dbx.Params{
				"id": fmt.Sprintf("%015d", i), "number": j.Number, "customer": j.Customer, "address": j.Address, "town": j.Town, "rulebook": j.Rulebook,
				"stage": j.Stage, "next_date": j.NextDate, "next_what": j.NextWhat, "blocker": j.Blocker, "stops": j.Stops, "watches": j.Watches, "opens": j.Opens,
			}).Execute()
			if err != nil {
				return err
			}
		}
		return nil
	})
}

// startTheirs fills a folder, serves it in a process of its own, and signs in.
func startTheirs(folder string, n int) (*site, error) {
	if err := fillTheirs(folder, n); err != nil {
		return nil, fmt.Errorf("fill the other: %w", err)
	}
	addr, err := freeAddress()
	if err != nil {
		return nil, err
	}
	self, err := os.Executable()
	if err != nil {
		return nil, err
	}
	s, err := start(exec.Command(filepath.Clean(self), "serve", folder, addr), addr, "/api/health")
	if err != nil {
		return nil, err
	}
	var answer struct{ Token string }
	if err := s.do("POST", "/api/collections/users/auth-with-password", map[string]string{"identity": peerUser, "password": password}, &answer); err != nil {
		return nil, err
	}
	s.header.Set("Authorization", answer.Token)
	return s, nil
}
